/**
 * Where between its neighbours a maximum lies, by the parabola through the three values: −0.5 … 0.5 from the middle one, 0 when they are no
 * maximum. Of a spectrum's peak the logarithms are given (common practice).
 */
export function topOffset(before: number, at: number, after: number): number {
  const bend = before - 2 * at + after;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
}
