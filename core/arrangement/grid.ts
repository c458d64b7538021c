/** Steps to which what is dragged or nudged snaps. */
export const grids = ['bar', 'beat', 'half', 'quarter', 'triplet', 'off'] as const;
export type Grid = (typeof grids)[number];

export const gridInWords: Readonly<Record<Grid, string>> = {
  bar: 'bar',
  beat: 'beat',
  half: '½ beat',
  quarter: '¼ beat',
  triplet: 'triplets',
  off: 'off',
};

/** How long a step of a grid is in beats; null where nothing snaps. */
export function gridBeats(grid: Grid, barBeats: number): number | null {
  switch (grid) {
    case 'bar':
      return barBeats;
    case 'beat':
      return 1;
    case 'half':
      return 1 / 2;
    case 'quarter':
      return 1 / 4;
    case 'triplet':
      return 1 / 3;
    case 'off':
      return null;
  }
}

/** The nearest line of a grid. @param stepBeats null leaves it where it is */
export const snapped = (beat: number, stepBeats: number | null): number =>
  stepBeats === null ? beat : Math.round(beat / stepBeats) * stepBeats;
