/** A cell of brightness (octaves above 50 Hz) against density (steps of an octave of hits a beat), by its lower corner. */
export interface ColourCell {
  readonly brightness: number;
  readonly density: number;
  readonly count: number;
}

/** Sides of a cell: half an octave of brightness; hits a beat by steps that double. */
export const brightnessStep = 0.5,
  densitySteps = [0, 0.25, 0.5, 1, 1.5, 2, 3, 4, 6, 11] as const;

/** The number of the cell in which a loop lies; NaN where one of both is not known. */
export function colourCellOf(brightnessOctaves: number | null, density: number | null): number {
  if (brightnessOctaves === null || density === null) return NaN;
  return Math.floor(brightnessOctaves / brightnessStep) * 16 + densitySteps.findLastIndex((step) => density >= step);
}

/** A cell by its number, and how many lie there. */
export const countedCell = (cell: number, count: number): ColourCell => ({
  brightness: (cell >> 4) * brightnessStep,
  density: densitySteps[cell & 15],
  count,
});
