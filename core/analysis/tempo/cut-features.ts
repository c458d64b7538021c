import type { SoundSpan } from '../listen/span';

export const cutFeatureCount = 5;

const closeness = (value: number, scale: number): number => Math.exp(-Math.abs(value) / scale);
/** A fall that no release of a note is as steep as. */
const cutDb = 40;

/**
 * How a candidate's last bar line meets the moment where the sound is over and silence follows. A cut there is as exact as the end of a file:
 * who lengthened the file with silence did not move the line. All 0 when the file ends with its sound.
 */
export function cutFeatures(
  { fileSeconds, lastSoundSeconds, endFallDb }: Pick<SoundSpan, 'fileSeconds' | 'lastSoundSeconds' | 'endFallDb'>,
  endSeconds: number,
): number[] {
  if (fileSeconds - lastSoundSeconds <= 0.012) return [0, 0, 0, 0, 0];
  const sharp = Math.max(0, Math.min(1, endFallDb / cutDb)),
    gap = lastSoundSeconds - endSeconds,
    [exact, near] = [closeness(gap, 0.0006), closeness(gap, 0.005)];
  return [1, sharp, near, near * sharp, exact * sharp];
}
