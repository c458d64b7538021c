import type { FitContext } from '../fit/coarse';
import { tempoBinBpm } from '../tempo-bins';
import type { LibraryIndex } from './library-index';
import { tempoFacet } from './matching';
import { measureOf } from './ranges';

export interface Count {
  readonly value: string;
  readonly count: number;
}
/** A cell of brightness (octaves above 50 Hz) against density (steps of an octave of hits a beat). */
export interface ColourCell {
  readonly brightness: number;
  readonly density: number;
  readonly count: number;
}

/** Sides of a cell: half an octave of brightness; hits a beat by steps that double. */
export const brightnessStep = 0.5,
  densitySteps = [0, 0.25, 0.5, 1, 1.5, 2, 3, 4, 6, 11] as const;

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
  facets.pack = countIds(index.packIds.data, slotsFor('pack'));
  const bins = new Map<number, number>();
  for (const slot of slotsFor(tempoFacet)) {
    const tempo = index.tempoBpm.data[slot];
    if (Number.isNaN(tempo)) continue;
    const bin = Math.floor(tempo / tempoBinBpm) * tempoBinBpm;
    bins.set(bin, (bins.get(bin) ?? 0) + 1);
  }
  facets[tempoFacet] = [...bins].sort(([a], [b]) => a - b).map(([value, count]) => ({ value: String(value), count }));
  return { facets, colour: colourOf(index, slotsFor('colour')) };
}

function countIds(column: Int32Array, slots: Uint32Array): Count[] {
  const counts = new Map<number, number>();
  for (const slot of slots) counts.set(column[slot], (counts.get(column[slot]) ?? 0) + 1);
  return [...counts].map(([id, count]) => ({ value: String(id), count }));
}

function colourOf(index: LibraryIndex, slots: Uint32Array): ColourCell[] {
  const brightness = measureOf(index, 'brightness', null),
    density = measureOf(index, 'density', null),
    counts = new Map<number, number>();
  for (const slot of slots) {
    const bright = brightness(slot),
      dense = density(slot);
    if (Number.isNaN(bright) || Number.isNaN(dense)) continue;
    const cell = Math.floor(bright / brightnessStep) * 16 + densitySteps.findLastIndex((step) => dense >= step);
    counts.set(cell, (counts.get(cell) ?? 0) + 1);
  }
  return [...counts].map(([cell, count]) => ({ brightness: (cell >> 4) * brightnessStep, density: densitySteps[cell & 15], count }));
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
const mostMarks = 300;

/** Where what is found lies on the map; all of it outside when there is no project in the middle. */
export function mapOf(index: LibraryIndex, slots: Uint32Array, project: FitContext | null): FoundMap {
  if (!project) return { cells: [], marks: [], outside: slots.length };
  const stretch = measureOf(index, 'stretch', project),
    shift = measureOf(index, 'shift', project),
    counts = new Map<number, number>();
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
      step = Math.max(-12, Math.min(12, Math.round(up * mapStepsPerOctave))),
      cell = (step + 12) * 16 + (Number.isNaN(across) ? 15 : across + 5);
    counts.set(cell, (counts.get(cell) ?? 0) + 1);
    if (placed.length <= mostMarks) placed.push(slot);
  }
  return {
    cells: [...counts].map(([cell, count]) => ({ stretch: (cell >> 4) - 12, shift: (cell & 15) === 15 ? null : (cell & 15) - 5, count })),
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
