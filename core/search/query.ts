import { facets } from './facets';

export const sortColumns = [
  'added',
  'title',
  'instrument',
  'tempo',
  'key',
  'bars',
  'length',
  'loudness',
  'pack',
  'kind',
  'fit',
  'likeness',
  'heard',
] as const;
export type SortColumn = (typeof sortColumns)[number];

/** Measures that are narrowed by a range. */
export const rangeNames = ['brightness', 'density', 'stretch', 'shift'] as const;
/** Octaves above 50 Hz; hits a beat; octaves of stretch and semitones of shift, both with their sign, as the project in the room asks for them. */
export type RangeName = (typeof rangeNames)[number];
export interface Range {
  readonly from: number;
  readonly to: number;
}

/** What a list is to be like, or to go with. */
export type Near =
  /** More like these: by sound, rhythm and harmony, each as heavy as said (0–1). */
  | { readonly kind: 'like'; readonly ids: readonly number[]; readonly sound: number; readonly rhythm: number; readonly harmony: number }
  /** More like a sound of one's own, by its number. */
  | { readonly kind: 'sound'; readonly id: number; readonly sound: number; readonly rhythm: number; readonly harmony: number }
  /** What completes these. */
  | { readonly kind: 'with'; readonly ids: readonly number[] }
  /** What completes these tracks of the project in the room, by themselves. */
  | { readonly kind: 'tracks'; readonly trackIds: readonly string[] }
  /** The next ones along a character. */
  | { readonly kind: 'than'; readonly id: number; readonly way: CharacterWay }
  /** Plays like what was tapped: milliseconds from the first tap. */
  | { readonly kind: 'tapped'; readonly atMs: readonly number[] };

/** Ways along one measured character, away from what sounds. */
export const characterWays = ['tighter', 'looser', 'busier', 'calmer', 'brighter', 'darker', 'drier', 'roomier'] as const;
export type CharacterWay = (typeof characterWays)[number];

/** A search as the page's address holds it. Choices are OR inside a facet, AND between facets. */
export interface LoopQuery {
  readonly words: string;
  /** What is chosen of each facet, as its codes; a facet that is not named has no choice. */
  readonly chosen: Readonly<Record<string, readonly string[]>>;
  readonly tempo: { readonly fromBpm: number; readonly toBpm: number } | null;
  readonly favourites: boolean;
  readonly ranges: Readonly<Partial<Record<RangeName, Range>>>;
  /** By what it is to be near to something that sounds; null for a search that isn't. */
  readonly near: Near | null;
  readonly sort: SortColumn;
  readonly descending: boolean;
}

export const emptyQuery: LoopQuery = {
  words: '',
  chosen: {},
  tempo: null,
  favourites: false,
  ranges: {},
  near: null,
  sort: 'added',
  descending: true,
};

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
    ranges: Object.fromEntries(
      rangeNames.flatMap((name) => {
        const range = readRange(one(name));
        return range ? [[name, range] as const] : [];
      }),
    ),
    near: readNear(one('near')),
    sort,
    descending: one('dir') ? one('dir') === 'desc' : fallsAtFirst(sort),
  };
}

/** Whether a column is looked at from its top unless told: the newest, the best, the last heard. */
export const fallsAtFirst = (sort: SortColumn): boolean => ['added', 'fit', 'likeness', 'heard'].includes(sort);

function readRange(text: string): Range | null {
  const match = /^(-?\d{1,3}(?:\.\d{1,4})?)~(-?\d{1,3}(?:\.\d{1,4})?)$/.exec(text);
  return match && Number(match[1]) < Number(match[2]) ? { from: Number(match[1]), to: Number(match[2]) } : null;
}

const mostNear = 8,
  mostTracks = 64,
  mostTaps = 64;

/** `like:12.15:1-0.5-0`, `with:12.15`, `tracks:lead.keys`, `tighter:12`, `tapped:0.480.960`. */
function readNear(text: string): Near | null {
  const [kind, list = '', by = ''] = text.split(':');
  if (kind === 'tracks') {
    const trackIds = [...new Set(list.split('.'))].filter((id) => /^[\w-]{1,64}$/.test(id)).slice(0, mostTracks);
    return trackIds.length > 0 ? { kind, trackIds } : null;
  }
  const numbers = list.split('.').map(Number);
  if (list === '' || numbers.some((each) => !Number.isInteger(each) || each < 0 || each > 2_147_483_647)) return null;
  const ids = [...new Set(numbers)].slice(0, mostNear);
  if (kind === 'tapped') return numbers.length >= 3 ? { kind, atMs: numbers.slice(0, mostTaps) } : null;
  if (ids.includes(0)) return null;
  if (kind === 'with') return { kind, ids };
  const way = characterWays.find((each) => each === kind);
  if (way) return { kind: 'than', id: ids[0], way };
  const weights = by.split('-').map(Number);
  if (kind !== 'like' && kind !== 'sound') return null;
  const [sound, rhythm, harmony] =
    weights.length === 3 && weights.every((each) => each >= 0 && each <= 1) && weights.some((each) => each > 0) ? weights : [1, 0, 0];
  return kind === 'sound' ? { kind, id: ids[0], sound, rhythm, harmony } : { kind, ids, sound, rhythm, harmony };
}

/** As it stands in an address. */
export function writeNear(near: Near): string {
  switch (near.kind) {
    case 'like':
      return `like:${near.ids.join('.')}:${near.sound}-${near.rhythm}-${near.harmony}`;
    case 'sound':
      return `sound:${near.id}:${near.sound}-${near.rhythm}-${near.harmony}`;
    case 'with':
      return `with:${near.ids.join('.')}`;
    case 'tracks':
      return `tracks:${near.trackIds.join('.')}`;
    case 'than':
      return `${near.way}:${near.id}`;
    case 'tapped':
      return `tapped:${near.atMs.join('.')}`;
  }
}

/** The parameters of a query, in a fixed order; the empty query has none. */
export function queryToParameters(query: LoopQuery): [string, string][] {
  const pairs: [string, string][] = [];
  if (query.words) pairs.push(['q', query.words]);
  for (const { name } of facets) for (const value of chosenOf(query, name)) pairs.push([name, value]);
  if (query.tempo) pairs.push(['tempo', `${query.tempo.fromBpm}-${query.tempo.toBpm}`]);
  if (query.favourites) pairs.push(['favourites', '1']);
  for (const name of rangeNames) {
    const range = query.ranges[name];
    if (range) pairs.push([name, `${range.from}~${range.to}`]);
  }
  if (query.near) pairs.push(['near', writeNear(query.near)]);
  if (query.sort !== 'added' || !query.descending) pairs.push(['sort', query.sort], ['dir', query.descending ? 'desc' : 'asc']);
  return pairs;
}

/** Whether a query leaves anything out; its order leaves nothing out. */
export const hasFilters = (query: LoopQuery): boolean => queryToParameters({ ...query, sort: 'added', descending: true }).length > 0;
