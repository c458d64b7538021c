import { parseKey, type Key } from '../../theory/key';
import type { WavWords } from '../wav/words';

/** What a file says about itself, in our terms; null where it says nothing. */
export interface EmbeddedTags {
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  readonly genre: string | null;
  readonly title: string | null;
  /** The pitch of the recording as a MIDI note, where a sampler's chunk tells it. Middle C is what programs write that don't know. */
  readonly unityNote: number | null;
  /** The loop region of a `smpl` chunk. */
  readonly loopFrames: { readonly startFrame: number; readonly endFrame: number } | null;
}

export const noTags: EmbeddedTags = { tempoBpm: null, key: null, genre: null, title: null, unityNote: null, loopFrames: null };

function plausibleTempo(text: string | undefined): number | null {
  const value = Number((text ?? '').replace(',', '.'));
  return value >= 30 && value <= 300 ? value : null;
}

/** From ID3v2 text frames. `TKEY` writes minor as `Dm`, off-key as `o`. */
export function tagsFromId3(frames: Readonly<Record<string, string>>): EmbeddedTags {
  return {
    ...noTags,
    tempoBpm: plausibleTempo(frames.TBPM),
    key: parseKey(frames.TKEY ?? ''),
    genre: frames.TCON ?? null,
    title: frames.TIT2 ?? null,
  };
}

/** From Vorbis comments; their key names for tempo and key are common practice, not standardised. */
export function tagsFromVorbis(comments: Readonly<Record<string, string>>): EmbeddedTags {
  return {
    ...noTags,
    tempoBpm: plausibleTempo(comments.BPM ?? comments.TEMPO ?? comments.TBPM),
    key: parseKey(comments.INITIALKEY ?? comments.INITIAL_KEY ?? comments.KEY ?? comments.TKEY ?? ''),
    genre: comments.GENRE ?? null,
    title: comments.TITLE ?? null,
  };
}

/** From the chunks beside the sound of a WAV file; what an ID3 tag in it says comes first, since it has a place for tempo and key. */
export function tagsFromWav({ sampler, info, id3, broadcast, instrumentNote, ixml }: WavWords): EmbeddedTags {
  const loop = sampler?.loops.find((each) => each.endFrame > each.startFrame) ?? null,
    tags = tagsFromId3(id3),
    note = instrumentNote ?? sampler?.unityNote ?? null;
  return {
    ...tags,
    loopFrames: loop,
    genre: tags.genre ?? info.IGNR ?? null,
    title: tags.title ?? info.INAM ?? (broadcast?.description || ixml.NOTE || null),
    unityNote: note !== null && note >= 1 && note <= 127 && note !== middleC ? note : null,
  };
}

const middleC = 60;
