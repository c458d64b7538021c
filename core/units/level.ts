/** Amplitude ratio to decibels; 0 gives −Infinity. */
export function ratioToDb(ratio: number): number {
  return 20 * Math.log10(ratio);
}

/** Decibels to amplitude ratio. @example dbToRatio(-2) // => 0.794… */
export function dbToRatio(db: number): number {
  return 10 ** (db / 20);
}

/** Power ratio to decibels. */
export function powerToDb(power: number): number {
  return 10 * Math.log10(power);
}
