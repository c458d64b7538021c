import { dbToRatio, ratioToDb } from '../units/level';

/** What becomes of a sum that passes full scale: all of it is brought down, or what passes is clipped where it is written as whole numbers. */
export type Overs = 'lower' | 'clip';

/** So far below full scale the highest sample lies afterwards: room for rounding. */
const marginDb = 0.1;

/** The highest sample of all planes, as a ratio to full scale. */
export function peakRatioOf(channels: readonly Float32Array[]): number {
  let peak = 0;
  for (const plane of channels) for (const value of plane) if (Math.abs(value) > peak) peak = Math.abs(value);
  return peak;
}

/** By how many dB a sound has to be brought down so that its highest sample lies just below full scale; 0 for one that does not pass it. */
export const loweringDbOf = (peakRatio: number): number => (peakRatio > 1 ? ratioToDb(peakRatio) + marginDb : 0);

/** Brings a sound down; in place. */
export function lowerBy(channels: readonly Float32Array[], lowerDb: number): void {
  if (lowerDb === 0) return;
  const gainRatio = dbToRatio(-lowerDb);
  for (const plane of channels) for (let i = 0; i < plane.length; i++) plane[i] *= gainRatio;
}

/**
 * Brings a mix down so that its highest sample lies just below full scale; in place. One below it stays as it is.
 * @returns by how many dB, 0 when nothing was done
 */
export function lowerOvers(channels: readonly Float32Array[]): number {
  const lowerDb = loweringDbOf(peakRatioOf(channels));
  lowerBy(channels, lowerDb);
  return lowerDb;
}
