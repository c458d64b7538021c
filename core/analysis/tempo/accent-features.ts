/** How many beats accents come round in, as far as it tells meters and octaves apart. */
const cycles = [2, 3, 4] as const;

/**
 * How much of the variance of a row of beats is explained by the place in a cycle of so many beats, less what chance would explain
 * (adjusted R² of a one-way layout): near 1 where every third beat is the strong one and `cycle` is 3, near 0 where it says nothing.
 * 0 for rows of less than two cycles and rows without variance.
 */
export function cycleShare(values: readonly number[], cycle: number): number {
  const count = values.length;
  if (count < 2 * cycle) return 0;
  let sum = 0,
    all = 0,
    between = 0;
  for (let k = 0; k < count; k++) sum += values[k];
  const mean = sum / count;
  for (let k = 0; k < count; k++) all += (values[k] - mean) ** 2;
  if (all < 1e-9) return 0;
  for (let place = 0; place < cycle; place++) {
    let here = 0,
      size = 0;
    for (let k = place; k < count; k += cycle) {
      here += values[k] - mean;
      size++;
    }
    between += here ** 2 / size;
  }
  const free = count - cycle;
  return Math.max(-1, 1 - ((1 - between / all) * (count - 1)) / free);
}

export const accentFeatureCount = 3 * cycles.length + 5;

/** What these features need: the strength of all onsets, of low ones, and the change of notes at each beat, and how alike the sound is to itself. */
export interface SharedAccentFeatures {
  readonly all: readonly number[];
  readonly low: readonly number[];
  readonly turns: readonly number[];
  /** Repetition at a lag in beats: of onsets, of colour, of notes. */
  readonly onsetsAt: (beats: number) => number;
  readonly colourAt: (beats: number) => number;
  readonly notesAt: (beats: number) => number;
}

/** Whether accents come round in twos, threes or fours of a candidate's beats: what tells a waltz from a march of the same length. */
export const accentFeatures = ({ all, low, turns, onsetsAt, colourAt, notesAt }: SharedAccentFeatures): number[] => [
  ...[all, low, turns].flatMap((values) => cycles.map((cycle) => cycleShare(values, cycle))),
  onsetsAt(4),
  colourAt(3),
  colourAt(4),
  notesAt(3),
  notesAt(4),
];
