import { facets } from '~core/search/facets';
import { chosenOf, parseLoopQuery, type Near, type RangeName } from '~core/search/query';

const semitones = (value: number): string => (value > 0 ? `up ${value}` : value < 0 ? `down ${-value}` : '0');
const percent = (octaves: number): string => `${octaves < 0 ? '−' : '+'}${Math.abs((2 ** octaves - 1) * 100).toFixed(0)} %`;
const hz = (octaves: number): string => {
  const value = 50 * 2 ** octaves;
  return value >= 1000 ? `${(value / 1000).toFixed(1)} kHz` : `${Math.round(value)} Hz`;
};

/** A range of a measure in words. */
export function rangeInWords(name: RangeName, { from, to }: { readonly from: number; readonly to: number }): string {
  switch (name) {
    case 'brightness':
      return `brightness ${hz(from)}–${hz(to)}`;
    case 'density':
      return `${from}–${to} hits a beat`;
    case 'stretch':
      return `stretched ${percent(from)} to ${percent(to)}`;
    case 'shift':
      return from === to ? `moved ${semitones(from)}` : `moved ${semitones(from)} to ${semitones(to)}`;
  }
}

const nearInWords: Readonly<Record<Near['kind'], string>> = {
  like: 'more like a loop',
  sound: 'more like a sound',
  with: 'what goes with it',
  tracks: 'what goes with tracks',
  than: 'along a character',
  tapped: 'plays like what I tapped',
};

/** A search as a sentence, from its address. */
export function queryInWords(address: string): string {
  const query = parseLoopQuery(new URLSearchParams(address));
  return [
    query.words,
    ...facets.flatMap(({ name, inWords }) => chosenOf(query, name).map(inWords)),
    query.tempo && `at ${query.tempo.fromBpm}–${query.tempo.toBpm}`,
    query.favourites && 'my favourites',
    ...Object.entries(query.ranges).map(([name, range]) => rangeInWords(name as RangeName, range)),
    query.near && nearInWords[query.near.kind],
    query.sort !== 'added' && `by ${query.sort}`,
  ]
    .filter(Boolean)
    .join(' · ');
}
