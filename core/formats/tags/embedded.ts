import { parseKey, type Key } from '../../theory/key';
import type { WavSampler } from '../wav/parse';

/** What a file says about itself, in our terms; null where it says nothing. */
export interface EmbeddedTags {
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  readonly genre: string | null;
  readonly title: string | null;
  /** The loop region of a `smpl` chunk. */
  readonly loopFrames: { readonly startFrame: number; readonly endFrame: number } | null;
}

export const noTags: EmbeddedTags = { tempoBpm: null, key: null, genre: null, title: null, loopFrames: null };

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

/** From the `smpl` chunk and `LIST INFO` texts of a WAV file. */
export function tagsFromWav(sampler: WavSampler | null, info: Readonly<Record<string, string>>): EmbeddedTags {
  const loop = sampler?.loops.find((each) => each.endFrame > each.startFrame) ?? null;
  return { ...noTags, loopFrames: loop, genre: info.IGNR ?? null, title: info.INAM ?? null };
}
