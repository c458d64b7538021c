import { parseKey, type Key } from '../../theory/key';
import type { AiffLayout } from '../aiff/parse';
import type { WavWords } from '../wav/words';

/** What a file says about itself, in our terms; null where it says nothing. */
export interface EmbeddedTags {
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  readonly genre: string | null;
  readonly title: string | null;
  /** Attributes that a person of another library had said: their word goes with the file. */
  readonly confirmed: readonly string[];
  /** The pitch of the recording as a MIDI note, where a sampler's chunk tells it. Middle C is what programs write that don't know. */
  readonly unityNote: number | null;
  /** The loop region of a `smpl` chunk. */
  readonly loopFrames: { readonly startFrame: number; readonly endFrame: number } | null;
}

export const noTags: EmbeddedTags = {
  tempoBpm: null,
  key: null,
  genre: null,
  title: null,
  confirmed: [],
  unityNote: null,
  loopFrames: null,
};

function plausibleTempo(text: string | undefined): number | null {
  const value = Number((text ?? '').replace(',', '.'));
  return value >= 30 && value <= 300 ? value : null;
}

const namesIn = (text: string | undefined): string[] => (text ?? '').split(/[\s,]+/).filter((name) => /^[a-z]{1,20}$/i.test(name));

/** From ID3v2 text frames. `TKEY` writes minor as `Dm`, off-key as `o`. */
export function tagsFromId3(frames: Readonly<Record<string, string>>): EmbeddedTags {
  return {
    ...noTags,
    // The standard's place holds whole numbers only; who knows it better writes it beside.
    tempoBpm: plausibleTempo(frames['TXXX:TEMPO']) ?? plausibleTempo(frames.TBPM),
    key: parseKey(frames.TKEY ?? ''),
    confirmed: namesIn(frames['TXXX:CONFIRMED']),
    genre: frames.TCON ?? null,
    title: frames.TIT2 ?? null,
  };
}

/** From Vorbis comments; their key names for tempo and key are common practice, not standardised. */
export function tagsFromVorbis(comments: Readonly<Record<string, string>>): EmbeddedTags {
  return {
    ...noTags,
    tempoBpm: plausibleTempo(comments.BPM ?? comments.TEMPO ?? comments.TBPM),
    confirmed: namesIn(comments.CONFIRMED),
    key: parseKey(comments.INITIALKEY ?? comments.INITIAL_KEY ?? comments.KEY ?? comments.TKEY ?? ''),
    genre: comments.GENRE ?? null,
    title: comments.TITLE ?? null,
  };
}

/** From the chunks beside the sound of an AIFF file. */
export function tagsFromAiff({ id3, info }: Pick<AiffLayout, 'id3' | 'info'>): EmbeddedTags {
  const tags = tagsFromId3(id3);
  return { ...tags, title: tags.title ?? info.NAME ?? null };
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
