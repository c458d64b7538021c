import type { StretchMode } from '../../core/stretch/stretch-modes';
import { stretchModeRows } from '../../core/stretch/stretch-modes';
import { fitCycle } from '../../core/stretch/fit';
import { peakLimitDb, saneFit, sanityLimits, type Sanity } from './sanity';
import { demoSpecimen, demoLoops, madeUpSpecimens, onsetsOf, outsideSpecimens, type Specimen } from './sanity-specimens';

export interface SanityRow extends Sanity {
  readonly maker: string;
  /** Whose limits hold. */
  readonly stretchMode: StretchMode;
  /** Loop, length ratio and shift. */
  readonly name: string;
}

/** A change below this is rounding. */
const tolerance = 0.01;

/** Which limits a fit breaks, in words; none for a sane one. */
export function broken(row: SanityRow): string[] {
  const { levelDb, bandDb } = sanityLimits;
  return [
    row.peakGrowthDb > peakLimitDb(row.stretchMode) + tolerance ? 'peak' : '',
    Math.abs(row.levelChangeDb) > levelDb || Math.abs(row.loudnessChangeDb ?? 0) > levelDb ? 'level' : '',
    Math.abs(row.bandChangeDb) > bandDb ? 'band' : '',
    row.seamGrowthDb > 0.5 ? 'seam' : '',
    row.isExact ? '' : 'length',
    row.isFinite ? '' : 'no number',
  ].filter(Boolean);
}

const cell = (value: number, name: string, over: number, count: number): string =>
  `${value.toFixed(1).padStart(6)} ${`${((100 * over) / count).toFixed(1)} %`.padStart(7)}  ${name}`;

/** Worst case and share over the limit, of each measure, with the name of the worst. */
export function printSanity(title: string, rows: readonly SanityRow[]): void {
  console.log(`\n${title}: what comes out held against what went in, worst and share over the limit`);
  for (const maker of new Set(rows.map((row) => row.maker))) {
    const of = rows.filter((row) => row.maker === maker),
      measures: [string, (row: SanityRow) => number, string][] = [
        ['peak growth, dB', (row) => row.peakGrowthDb, 'peak'],
        ['level or loudness change, dB', (row) => largest(row.levelChangeDb, row.loudnessChangeDb ?? 0), 'level'],
        ['octave band change, dB', (row) => row.bandChangeDb, 'band'],
        ['loudest 5 ms at the seam, dB', (row) => row.seamGrowthDb, 'seam'],
      ];
    console.log(
      `  ${maker}, ${of.length} fits; lengths not exact ${of.filter((row) => !row.isExact).length}, not finite ${of.filter((row) => !row.isFinite).length}`,
    );
    for (const [name, value, limit] of measures) {
      const signed = limit === 'level' || limit === 'band',
        size = (row: SanityRow) => (signed ? Math.abs(value(row)) : value(row)),
        worst = of.reduce((most, row) => (size(row) > size(most) ? row : most));
      console.log(
        `    ${name.padEnd(30)} ${cell(value(worst), worst.name, of.filter((row) => broken(row).includes(limit)).length, of.length)}`,
      );
    }
  }
}

const largest = (a: number, b: number): number => (Math.abs(a) > Math.abs(b) ? a : b);

export const sanityRatios = [0.5, 0.8, 0.968, 1.1, 1.25, 2] as const;
export const sanityShifts = [3, -5, 12, -12] as const;

/** All fits of a specimen by an engine: each ratio at its pitch, and for what has one each shift at its length. */
export function fitsOfSpecimen(
  specimen: Specimen,
  engine: StretchMode,
  ratios: readonly number[] = sanityRatios,
  shifts: readonly number[] = sanityShifts,
): SanityRow[] {
  const onsets = onsetsOf(specimen, engine),
    tasks = [
      ...ratios.map((ratio) => ({ ratio, shiftSemitones: 0 })),
      ...(engine === 'percussive' || engine === 'plain' ? [] : shifts.map((shiftSemitones) => ({ ratio: 1, shiftSemitones }))),
    ];
  return tasks.map(({ ratio, shiftSemitones }) => {
    const targetFrames = Math.round(specimen.cycle[0].length * ratio),
      made = fitCycle(specimen.cycle, onsets, { stretchMode: engine, targetFrames, shiftSemitones, beats: specimen.beats });
    return {
      ...saneFit(specimen.cycle, made, { engine, targetFrames, shiftSemitones }),
      maker: engine,
      stretchMode: engine,
      name: `${specimen.name} × ${ratio}${shiftSemitones === 0 ? '' : ` ${shiftSemitones} st`}`,
    };
  });
}

/**
 * Every demo loop by its own engine, what is made up by all of them, and a set in a folder where one is given.
 * @param step every so many-eth demo loop: 1 is all of them
 */
export function benchSanity(step: number, setFolder: string | undefined): void {
  const demo: SanityRow[] = [],
    loops = demoLoops().filter((_, index) => index % step === 0);
  for (const [index, spec] of loops.entries()) {
    const specimen = demoSpecimen(spec);
    demo.push(...fitsOfSpecimen(specimen, specimen.stretchMode));
    if (index % 20 === 19) console.error(`${index + 1} of ${loops.length} demo loops`);
  }
  printSanity(`Demo loops (${loops.length})`, demo);
  printSanity(
    'Made-up extremes, by every engine',
    madeUpSpecimens().flatMap((specimen) => stretchModeRows.flatMap(({ mode: engine }) => fitsOfSpecimen(specimen, engine))),
  );
  if (setFolder)
    printSanity(
      'The set in the folder',
      outsideSpecimens(setFolder, 60).flatMap((specimen) => fitsOfSpecimen(specimen, specimen.stretchMode)),
    );
}
