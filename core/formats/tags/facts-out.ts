import type { Key } from '../../theory/key';
import { keyName } from '../../theory/key';

/** What is known of a loop, as it goes into files and lists; null where nothing is. */
export interface FactsOut {
  readonly title: string;
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  readonly meter: string | null;
  readonly genre: string | null;
  /** Instrument, pack and licence, for people who read. */
  readonly comment: string;
  readonly author: string;
  /** Attributes that a person here has said. */
  readonly confirmed: readonly string[];
  /** Where the music goes round, seconds of the file; null for what plays once. */
  readonly loop: { readonly startSeconds: number; readonly endSeconds: number } | null;
}

/** A key as ID3v2 writes it: `Dm`, `F#`, `Ebm` (id3.org, ID3v2.4.0 frames, 4.2.3). */
export function id3Key(key: Key): string {
  const [tonic] = keyName(key).split(' ');
  return tonic.replace('♯', '#').replace('♭', 'b') + (key.mode === 'minor' ? 'm' : '');
}

/** A tempo in a text: at most two decimals. @example tempoText(124) // => '124' */
export const tempoText = (tempoBpm: number): string => String(Math.round(tempoBpm * 100) / 100);
