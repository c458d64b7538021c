/** So near a sixteenth a faint hit is believed, seconds. */
const reachSeconds = 0.006;

/** A faint hit this near to a clear one, round the cycle's end too, is part of it, seconds. */
const apartSeconds = 0.03;

/**
 * The clear hits of a cycle and those faint ones that lie on a sixteenth: what is too soft to be told from a tail by its rise alone is a hit where
 * players play, and would else land wherever the tail goes.
 * @param clearFrames @param faintFrames of the cycle, ascending
 * @param beats of the cycle; 0 where they are not known, and then only clear ones count
 */
export function withFaintHits(
  clearFrames: readonly number[],
  faintFrames: readonly number[],
  cycleFrames: number,
  beats: number,
  sampleRateHz: number,
): readonly number[] {
  if (!(beats > 0) || faintFrames.length === 0) return clearFrames;
  const between = (a: number, b: number): number => Math.min(Math.abs(a - b), cycleFrames - Math.abs(a - b)),
    sixteenth = cycleFrames / beats / 4,
    believed = faintFrames.filter((frame) => {
      const away = Math.abs(frame - Math.round(frame / sixteenth) * sixteenth);
      return away <= reachSeconds * sampleRateHz && clearFrames.every((clear) => between(frame, clear) > apartSeconds * sampleRateHz);
    });
  return believed.length === 0 ? clearFrames : [...clearFrames, ...believed].sort((a, b) => a - b);
}
