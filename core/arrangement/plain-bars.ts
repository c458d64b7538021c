/** How alike two bars are: the cosine of what is heard in them, 1 where both are silent. */
function likeness(a: readonly number[], b: readonly number[]): number {
  let both = 0,
    ofA = 0,
    ofB = 0;
  for (const [k, value] of a.entries()) {
    both += value * b[k];
    ofA += value * value;
    ofB += b[k] * b[k];
  }
  return ofA === 0 && ofB === 0 ? 1 : ofA === 0 || ofB === 0 ? 0 : both / Math.sqrt(ofA * ofB);
}

/**
 * How plain each bar of a section is, 0–1: how much the others are like it (self-similarity; common practice for finding what may come again).
 * @param bars what is heard in each, such as levels by track and sixteenth, all of one length
 */
export const plainnessOf = (bars: readonly (readonly number[])[]): number[] =>
  bars.map((bar, k) => {
    const others = bars.filter((_, each) => each !== k);
    return others.length === 0 ? 1 : others.reduce((sum, other) => sum + likeness(bar, other), 0) / others.length;
  });

/**
 * The run of so many bars that is best played again: inside, neither the first bar nor the last, plain, and going on from its own end to its own
 * start as smoothly as the piece does there. Of equals the latest, so that what has been built up comes again.
 * @returns its first bar, from 0
 */
export function plainestRun(bars: readonly (readonly number[])[], count: number): number {
  const plain = plainnessOf(bars),
    last = bars.length - 1 - count;
  let best = Math.max(1, last),
    bestScore = -Infinity;
  for (let first = 1; first <= last; first++) {
    const inside = plain.slice(first, first + count).reduce((sum, value) => sum + value, 0) / count,
      // What comes before the run should be like what will come before it the second time: its own last bar.
      joint = likeness(bars[first - 1], bars[first + count - 1]),
      score = inside + joint / 4;
    if (score >= bestScore - 1e-9) {
      best = first;
      bestScore = score;
    }
  }
  return best;
}
