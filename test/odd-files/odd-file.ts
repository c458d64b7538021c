import type { FileState } from '../../core/imports/states';

/** A file as the world has it, and the row that its import must end in. */
export interface OddFile {
  /** Its path, ending included: no two alike. */
  readonly path: string;
  readonly bytes: Uint8Array;
  /** What is odd about it, with the standard that allows or forbids it, or the weakness (CWE) that it tries. */
  readonly why: string;
  readonly state: FileState;
  /** What the row says, where it must say something. */
  readonly says?: RegExp;
}

/** An archive as the world has it, and the rows that must come of it: a state for each path, `says` for some. */
export interface OddArchive {
  readonly path: string;
  readonly bytes: Uint8Array;
  readonly why: string;
  readonly rows: readonly { readonly path: RegExp; readonly state: FileState; readonly says?: RegExp }[];
}

export const letters = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0) & 255),
  u16 = (value: number): number[] => [value & 255, (value >>> 8) & 255],
  u32 = (value: number): number[] => [...u16(value & 0xffff), ...u16(Math.floor(value / 65536) & 0xffff)],
  big = (bytes: readonly number[]): number[] => [...bytes].reverse();

let tones = 0;
/** 16-bit frames of a tone that no other file of the table has, half a second long unless told. */
export function tone(frames = 4000, rateHz = 8000): number[] {
  const hz = 200 + 7 * tones++;
  return Array.from({ length: frames }, (_, i) => u16(Math.round(9000 * Math.sin((2 * Math.PI * hz * i) / rateHz)))).flat();
}
