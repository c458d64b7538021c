import { facets } from './facets';

export const sortColumns = ['added', 'title', 'instrument', 'tempo', 'key', 'bars', 'length', 'loudness', 'pack', 'kind', 'fit'] as const;
export type SortColumn = (typeof sortColumns)[number];

/** A search as the page's address holds it. Choices are OR inside a facet, AND between facets. */
export interface LoopQuery {
  readonly words: string;
  /** What is chosen of each facet, as its codes; a facet that is not named has no choice. */
  readonly chosen: Readonly<Record<string, readonly string[]>>;
  readonly tempo: { readonly fromBpm: number; readonly toBpm: number } | null;
  readonly favourites: boolean;
  readonly sort: SortColumn;
  readonly descending: boolean;
}

export const emptyQuery: LoopQuery = { words: '', chosen: {}, tempo: null, favourites: false, sort: 'added', descending: true };

/** What is chosen of a facet. */
export const chosenOf = (query: LoopQuery, facet: string): readonly string[] => query.chosen[facet] ?? [];

/** The query's choices with one more of a facet, or one less when it is there. @example onChange({ chosen: toggled(query, 'key', '2m') }) */
export function toggled({ chosen }: LoopQuery, facet: string, value: string): LoopQuery['chosen'] {
  const now = chosen[facet] ?? [],
    next = now.includes(value) ? now.filter((each) => each !== value) : [...now, value],
    { [facet]: _, ...others } = chosen;
  return next.length > 0 ? { ...others, [facet]: next } : others;
}

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
    chosen: Object.fromEntries(
      facets.map(({ name, accepts }) => [name, list(name).filter(accepts)] as const).filter(([, values]) => values.length > 0),
    ),
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
  for (const { name } of facets) for (const value of chosenOf(query, name)) pairs.push([name, value]);
  if (query.tempo) pairs.push(['tempo', `${query.tempo.fromBpm}-${query.tempo.toBpm}`]);
  if (query.favourites) pairs.push(['favourites', '1']);
  if (query.sort !== 'added' || !query.descending) pairs.push(['sort', query.sort], ['dir', query.descending ? 'desc' : 'asc']);
  return pairs;
}

/** Whether a query leaves anything out; its order leaves nothing out. */
export const hasFilters = (query: LoopQuery): boolean => queryToParameters({ ...query, sort: 'added', descending: true }).length > 0;
