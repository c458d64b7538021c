import type { StretchMode } from '../stretch/stretch-modes';

/** What is done to a loop beyond making it fit: found while auditioning, kept by the clip. */
export interface ClipOverrides {
  /** null: chosen from the loop's facts. */
  readonly stretchMode: StretchMode | null;
  /** Times as fast as its nearest reading, ¼ to 4: 2 is double time. */
  readonly speedRatio: number;
  /** Beyond what following the key asks for; hundredths are cents. */
  readonly shiftSemitones: number;
  /** The character alone, by the voice mode; −12 to 12. */
  readonly formantSemitones: number;
  readonly reverse: boolean;
  /** Only so many bars from its start; null for all. */
  readonly firstBars: number | null;
  /** How far a wandering player is drawn onto the grid, 0–1; null: as the loop says. */
  readonly gridStrength: number | null;
  /** By which of our instruments notes are played; null: by the one they are for. */
  readonly instrument: string | null;
}

export const noOverrides: ClipOverrides = {
  stretchMode: null,
  speedRatio: 1,
  shiftSemitones: 0,
  formantSemitones: 0,
  reverse: false,
  firstBars: null,
  gridStrength: null,
  instrument: null,
};

export const speedRatios: readonly number[] = [0.25, 0.5, 1, 2, 4];

/** What a clip keeps of it; its shift is a value of its own. */
export type KeptOverrides = Partial<Omit<ClipOverrides, 'shiftSemitones'>>;

/** Only what differs from leaving a loop alone. */
export function keptOverrides(overrides: ClipOverrides): KeptOverrides {
  const names = ['stretchMode', 'speedRatio', 'formantSemitones', 'reverse', 'firstBars', 'gridStrength', 'instrument'] as const;
  return Object.fromEntries(names.filter((name) => overrides[name] !== noOverrides[name]).map((name) => [name, overrides[name]]));
}

/** How a loop is always handled, chosen once for all who use it. */
export interface FitDefaults {
  readonly stretchMode?: StretchMode;
  /** What rings on behind the last bar is folded into the start, or cut; left out: folded when it is no further music. */
  readonly tail?: 'wrap' | 'cut';
  readonly gridStrength?: number;
}
