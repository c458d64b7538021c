import type { FitContext } from '../fit/coarse';
import { countedCell, type ColourCell } from './colour-cells';
import type { LibraryIndex } from './library-index';
import { tempoFacet } from './matching';
import { measureOf } from './ranges';

export interface Count {
  readonly value: string;
  readonly count: number;
}

/** Counts for the charts. @param slotsFor what a facet is counted among: all that is found, without its own choice */
export function countFacetsOf(
  index: LibraryIndex,
  slotsFor: (facet: string) => Uint32Array,
): { facets: Readonly<Record<string, readonly Count[]>>; colour: readonly ColourCell[] } {
  const facets: Record<string, Count[]> = {};
  for (const [name, column] of index.facetColumns) {
    const { texts } = column.dictionary,
      counts = new Uint32Array(texts.length);
    column.count(slotsFor(name), counts);
    // What there is elsewhere in the library is told too, as none.
    facets[name] = texts.slice(1).map((value, k) => ({ value, count: counts[k + 1] }));
  }
  const asText = ({ value, count }: { readonly value: number; readonly count: number }): Count => ({ value: String(value), count });
  facets.pack = index.packs.count(slotsFor('pack')).map(asText);
  facets[tempoFacet] = index.tempoBins
    .count(slotsFor(tempoFacet))
    .sort((a, b) => a.value - b.value)
    .map(asText);
  return { facets, colour: index.colourCells.count(slotsFor('colour')).map(({ value, count }) => countedCell(value, count)) };
}

/** The result over shift and stretch: cells with how many lie there, and each by itself where they are few. */
export interface FoundMap {
  /** Steps of 1/24 octave of stretch (−12 … 12), semitones of shift (−5 … 6), null for what has none. */
  readonly cells: readonly { readonly stretch: number; readonly shift: number | null; readonly count: number }[];
  readonly marks: readonly { readonly id: number; readonly stretch: number; readonly shift: number | null }[];
  /** What has no tempo, and so no place. */
  readonly outside: number;
}

export const mapStepsPerOctave = 24;
const mostMarks = 300,
  mapColumns = 16,
  mostSteps = 12;

/** Where what is found lies on the map; all of it outside when there is no project in the middle. */
export function mapOf(index: LibraryIndex, slots: Uint32Array, project: FitContext | null): FoundMap {
  if (!project) return { cells: [], marks: [], outside: slots.length };
  const stretch = measureOf(index, 'stretch', project),
    shift = measureOf(index, 'shift', project),
    // Twelve shifts and, in the last column, none; by steps of stretch.
    counts = new Uint32Array(mapColumns * (2 * mostSteps + 1));
  let outside = 0;
  const placed: number[] = [];
  for (let k = 0; k < slots.length; k++) {
    const slot = slots[k];
    const up = stretch(slot);
    if (Number.isNaN(up)) {
      outside++;
      continue;
    }
    const across = shift(slot),
      step = Math.max(-mostSteps, Math.min(mostSteps, Math.round(up * mapStepsPerOctave)));
    counts[(step + mostSteps) * mapColumns + (Number.isNaN(across) ? 15 : across + 5)]++;
    if (placed.length <= mostMarks) placed.push(slot);
  }
  return {
    cells: [...counts.entries()]
      .filter(([, count]) => count > 0)
      .map(([cell, count]) => ({
        stretch: Math.floor(cell / mapColumns) - mostSteps,
        shift: cell % mapColumns === 15 ? null : (cell % mapColumns) - 5,
        count,
      })),
    marks:
      placed.length > mostMarks
        ? []
        : placed.map((slot) => ({
            id: index.ids.data[slot],
            stretch: stretch(slot),
            shift: Number.isNaN(shift(slot)) ? null : shift(slot),
          })),
    outside,
  };
}
