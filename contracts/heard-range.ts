/** The part of the project that is heard, in beats, as it stands in an address: candidates are held against what sounds there. */
export const rangeParameter = 'over';
export interface HeardRange {
  readonly startBeat: number;
  readonly lengthBeats: number;
}

/** @example readHeardRange('16-32') // => { startBeat: 16, lengthBeats: 16 } @returns null for what is none */
export function readHeardRange(text: string | null): HeardRange | null {
  const match = /^(\d{1,6}(?:\.\d{1,3})?)-(\d{1,6}(?:\.\d{1,3})?)$/.exec(text ?? ''),
    from = Number(match?.[1]),
    to = Number(match?.[2]);
  return match && to > from ? { startBeat: from, lengthBeats: to - from } : null;
}

export const writeHeardRange = ({ startBeat, lengthBeats }: HeardRange): string => `${startBeat}-${startBeat + lengthBeats}`;
