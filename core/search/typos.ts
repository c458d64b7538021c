/**
 * How far two words are apart: letters that are put in, left out, replaced, or exchanged with their neighbour (optimal string alignment; Damerau
 * 1964). @param most beyond which it does not matter how far @returns `most + 1` for farther
 */
export function wordDistance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [],
    last = Array.from({ length: b.length + 1 }, (_, k) => k);
  for (let i = 1; i <= a.length; i++) {
    const now = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let cost = Math.min(last[j] + 1, now[j - 1] + 1, last[j - 1] + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) cost = Math.min(cost, before[j - 2] + 1);
      now.push(cost);
    }
    if (Math.min(...now) > most) return most + 1;
    before = last;
    last = now;
  }
  return Math.min(last[b.length], most + 1);
}

/** So many errors a word of a length may have (common practice): short ones none, for every other short word is near. */
export const errorsForgiven = (word: string): number => (word.length < 4 || /\d/.test(word) ? 0 : word.length < 7 ? 1 : 2);

/** Of words that there are, those that were likely meant, the nearest first. The typed one may be the beginning of a longer one. */
export function meantWords(typed: string, there: readonly string[], mostWords = 3): string[] {
  const forgiven = errorsForgiven(typed);
  if (forgiven === 0) return [];
  return there
    .map((word) => ({
      word,
      distance: Math.min(wordDistance(typed, word, forgiven), wordDistance(typed, word.slice(0, typed.length), forgiven) + 0.5),
    }))
    .filter(({ distance }) => distance <= forgiven)
    .sort((a, b) => a.distance - b.distance || a.word.length - b.word.length || (a.word < b.word ? -1 : 1))
    .slice(0, mostWords)
    .map(({ word }) => word);
}
