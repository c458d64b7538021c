import { instrumentById } from '../theory/instruments';
import { families, type Family } from '../theory/instruments';
import { loopKinds, type LoopKind } from '../analysis/facts';

export const sortColumns = ['added', 'title', 'instrument', 'tempo', 'key', 'bars', 'length', 'loudness', 'pack', 'kind', 'fit'] as const;
export type SortColumn = (typeof sortColumns)[number];

/** A search as the page's address holds it. Lists are OR inside, AND between. */
export interface LoopQuery {
  readonly words: string;
  readonly families: readonly Family[];
  readonly instruments: readonly string[];
  readonly kinds: readonly LoopKind[];
  /** `2m` D minor, `2M` D major, `un` unpitched, `no` no single key. */
  readonly keys: readonly string[];
  readonly bars: readonly number[];
  readonly packs: readonly number[];
  readonly tempo: { readonly fromBpm: number; readonly toBpm: number } | null;
  readonly favourites: boolean;
  readonly sort: SortColumn;
  readonly descending: boolean;
}

export const emptyQuery: LoopQuery = {
  words: '',
  families: [],
  instruments: [],
  kinds: [],
  keys: [],
  bars: [],
  packs: [],
  tempo: null,
  favourites: false,
  sort: 'added',
  descending: true,
};

/**
 * Reads a query from the parameters of an address, e.g. `q=shaker&key=2m&key=5m&tempo=90-110&sort=tempo`.
 * What cannot be understood is left out: an old link still gives a list.
 */
export function parseLoopQuery(parameters: Iterable<readonly [string, string]>): LoopQuery {
  const all = new Map<string, string[]>();
  for (const [name, value] of parameters) all.set(name, [...(all.get(name) ?? []), value]);
  const list = (name: string) => [...new Set(all.get(name) ?? [])];
  const one = (name: string) => all.get(name)?.at(-1) ?? '';
  const tempo = /^(\d{1,3}(?:\.\d+)?)-(\d{1,3}(?:\.\d+)?)$/.exec(one('tempo'));
  const sort = sortColumns.find((column) => column === one('sort')) ?? 'added';
  return {
    words: one('q').slice(0, 200).trim(),
    families: list('family').filter((each): each is Family => Object.hasOwn(families, each)),
    instruments: list('instrument').filter((each) => instrumentById(each) !== null),
    kinds: list('kind').filter((each): each is LoopKind => Object.hasOwn(loopKinds, each)),
    keys: list('key').filter((each) => /^(un|no|(\d|1[01])[mM])$/.test(each)),
    bars: list('bars')
      .map(Number)
      .filter((each) => Number.isInteger(each) && each >= 1 && each <= 64),
    packs: list('pack')
      .map(Number)
      .filter((each) => Number.isInteger(each) && each > 0 && each <= 2_147_483_647),
    tempo: tempo && Number(tempo[1]) < Number(tempo[2]) ? { fromBpm: Number(tempo[1]), toBpm: Number(tempo[2]) } : null,
    favourites: one('favourites') === '1',
    sort,
    descending: one('dir') ? one('dir') === 'desc' : sort === 'added' || sort === 'fit',
  };
}

/** The parameters of a query, in a fixed order; the empty query has none. */
export function queryToParameters(query: LoopQuery): [string, string][] {
  const pairs: [string, string][] = [];
  if (query.words) pairs.push(['q', query.words]);
  for (const [name, values] of [
    ['family', query.families],
    ['instrument', query.instruments],
    ['kind', query.kinds],
    ['key', query.keys],
    ['bars', query.bars],
    ['pack', query.packs],
  ] as const)
    for (const value of values) pairs.push([name, String(value)]);
  if (query.tempo) pairs.push(['tempo', `${query.tempo.fromBpm}-${query.tempo.toBpm}`]);
  if (query.favourites) pairs.push(['favourites', '1']);
  if (query.sort !== 'added' || !query.descending) pairs.push(['sort', query.sort], ['dir', query.descending ? 'desc' : 'asc']);
  return pairs;
}

/** Adds a value to a list of the query, or takes it away when it is there. */
export function toggleIn<T>(list: readonly T[], value: T): readonly T[] {
  return list.includes(value) ? list.filter((each) => each !== value) : [...list, value];
}

export const hasFilters = (query: LoopQuery): boolean => queryToParameters({ ...query, sort: 'added', descending: true }).length > 0;

/** A text as it is searched, on both sides: small letters without accents, whatever their script. @example foldForSearch('Café') // => 'cafe' */
export const foldForSearch = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();

/** Words of a query as search terms: letters and digits only, of any script, at most eight. */
export function searchTerms(words: string): string[] {
  return foldForSearch(words)
    .replaceAll('♯', 'sharp')
    .replaceAll('♭', 'flat')
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .slice(0, 8);
}
