const longestPauseMs = 2000;

/**
 * The tempo of taps, to a tenth: the slope of the straight line through their times, so that one uneven tap counts little. null with fewer
 * than two, or when the last two lie more than two seconds apart; taps before a longer pause are forgotten.
 * @param timesMs ascending
 */
export function tappedTempo(timesMs: readonly number[]): number | null {
  let first = timesMs.length - 1;
  while (first > 0 && timesMs[first] - timesMs[first - 1] <= longestPauseMs) first--;
  const taps = timesMs.slice(Math.max(0, first)),
    count = taps.length;
  if (count < 2) return null;
  const middle = (count - 1) / 2,
    mean = taps.reduce((sum, time) => sum + time, 0) / count;
  let across = 0,
    up = 0;
  taps.forEach((time, k) => {
    across += (k - middle) ** 2;
    up += (k - middle) * (time - mean);
  });
  const tempoBpm = Math.round(600000 / (up / across)) / 10;
  return tempoBpm >= 30 && tempoBpm <= 300 ? tempoBpm : null;
}
