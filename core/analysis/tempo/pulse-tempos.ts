/** Tempos at which the pulse is kept for drawing: 50 to 196 by 2 %. */
export const pulseTempos: readonly number[] = Array.from({ length: 70 }, (_, k) => 50 * 1.02 ** k);
