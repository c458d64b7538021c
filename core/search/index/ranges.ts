import { shiftToKey } from '../../theory/key';
import { signedStretch, type FitContext } from '../fit/coarse';
import { ProfileReader, profileLength } from '../fit/profile';
import { rangeNames, type LoopQuery, type RangeName } from '../query';
import type { LibraryIndex } from './library-index';
import type { Condition } from './matching';

/** A measure of a slot that ranges are held against; NaN where it has none. */
export function measureOf(index: LibraryIndex, name: RangeName, project: FitContext | null): (slot: number) => number {
  const profile = new ProfileReader(index.profiles.data),
    at = (slot: number) => {
      profile.offset = slot * profileLength;
      return profile;
    };
  switch (name) {
    case 'brightness':
      return (slot) => (at(slot).isKnown ? (profile.brightnessOctaves ?? NaN) : NaN);
    case 'density':
      return (slot) => (at(slot).isKnown ? (profile.density ?? NaN) : NaN);
    case 'stretch':
      return (slot) => (project ? signedStretch(index.tempoBpm.data[slot], project.tempoBpm) : NaN);
    case 'shift': {
      if (!project?.key) return () => NaN;
      const { key } = project,
        shifts = Int8Array.from({ length: 24 }, (_, code) => shiftToKey({ tonic: code >> 1, mode: code % 2 ? 'minor' : 'major' }, key));
      return (slot) => (index.pitched.data[slot] === 1 || index.keys.data[slot] < 0 ? NaN : shifts[index.keys.data[slot]]);
    }
  }
}

/** Brightness and density are brushed together in one chart, whose counts leave both out. */
export const rangeFacet: Readonly<Record<RangeName, string>> = { brightness: 'colour', density: 'colour', stretch: 'map', shift: 'map' };

/** The conditions of a query's ranges, both ends in. */
export const rangeConditions = (index: LibraryIndex, query: LoopQuery, project: FitContext | null): Condition[] =>
  rangeNames.flatMap((name): Condition[] => {
    const range = query.ranges[name];
    if (!range) return [];
    return [
      {
        facet: rangeFacet[name],
        cacheKey: null,
        bits: () => {
          const measure = measureOf(index, name, project);
          return index.bitsWhere((slot) => {
            const value = measure(slot);
            return value >= range.from - 1e-9 && value <= range.to + 1e-9;
          });
        },
      },
    ];
  });
