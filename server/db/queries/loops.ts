import { tempoBinBpm } from '~core/search/tempo-bins';
import { coarseCosts, type FitContext } from '~core/search/fit/coarse';
import { usualWeights } from '~core/search/fit/weights';
import type { LoopQuery } from '~core/search/query';
import type { Facet } from '~core/analysis/attributes/attribute';
import { facetOf } from '~core/search/facets';
import { licenceSql } from './licence';
import { facetSql, tempoFacet, type Conditions } from './loop-filter';

export { tempoBinBpm };

/** What is counted of a facet, one text a loop; null for those that hold several, which are counted by `amongSql`. */
function countedSql(name: string): string | null {
  if (name === tempoFacet) return `(floor(l.tempo_bpm / ${tempoBinBpm}) * ${tempoBinBpm})::int::text`;
  const facet = facetOf(name);
  if (!facet) throw new RangeError(`no facet ${name}`);
  return facet.match === 'among' ? null : `(${facetSql(facet)})::text`;
}

/** Counts of several facets under the same conditions, in one pass; rows of (facet, value, count). One statement for each that holds several. */
export function facetsSql(names: readonly string[], where: string): string[] {
  const plain = names.flatMap((name) => {
      const sql = countedSql(name);
      return sql === null ? [] : [{ column: `f_${name.replaceAll('-', '_')}`, name, sql }];
    }),
    several = names.filter((name) => countedSql(name) === null).map((name) => facetOf(name) as Facet);
  return [
    ...(plain.length > 0 ? [groupedSql(plain, where)] : []),
    ...several.map(
      (facet) =>
        `select '${facet.name}' as facet, value, count(*)::int as count from loops l, unnest(${facetSql(facet)}) value where ${where} group by value`,
    ),
  ];
}

function groupedSql(plain: readonly { readonly column: string; readonly name: string; readonly sql: string }[], where: string): string {
  const columns = plain.map(({ column, sql }) => `${sql} as ${column}`).join(', '),
    label = plain.map(({ column, name }) => `when grouping(${column}) = 0 then '${name}'`).join(' '),
    value = `coalesce(${plain.map(({ column }) => column).join(', ')})`;
  return `with matching as (select ${columns} from loops l where ${where})
    select case ${label} end as facet, ${value} as value, count(*)::int as count from matching group by grouping sets (${plain.map(({ column }) => `(${column})`).join(', ')})`;
}

export const countSql = (where: string): string => `select count(*)::int as total from loops l where ${where}`;

/** What the list shows of a loop. */
const cardColumns = `l.id, l.title, l.file_name as "fileName", l.kind, l.media, l.instrument, l.family, l.tempo_bpm as "tempoBpm", l.tempo_confidence as "tempoConfidence", l.key_tonic as "keyTonic", l.key_mode as "keyMode", l.key_confidence as "keyConfidence",
  l.pitched, l.bars, l.beats, l.meter, l.length_seconds as "lengthSeconds", l.first_bar_seconds as "firstBarSeconds", l.landing_seconds as "landingSeconds", coalesce(l.set_role = 'fill', false) as "isFill", l.loudness_lufs as "loudnessLufs", l.peak_dbfs as "peakDbfs", l.sound_sha256 as "soundSha", l.sound_frames as "soundFrames", l.fit_defaults as "fitDefaults",
  encode(l.overview, 'base64') as overview, l.pack_id as "packId", p.name as "packName", p.vendor, l.set_id as "setId", s.stem as "setStem", l.added_at as "addedAt", a.name::text as "addedBy"`;

/** And what hearing it needs beside. */
const rowColumns = `${cardColumns}, l.onset_frames as "onsetFrames", l.faint_frames as "faintFrames", l.beat_frames as "beatFrames",
  case when l.pitched and l.family is distinct from 'drums' then jsonb_build_object('bars', coalesce(l.detail->'bars', '[]'), 'beatChords', coalesce(l.detail->'beatChords', '[]'), 'melody', l.detail->'melody', 'stated', l.stated_chords->'marks') end as heard`;

const joins = 'join packs p on p.id = l.pack_id left join sets s on s.id = l.set_id join people a on a.id = l.added_by';

/** Marks what may be missing; such loops come last either way. What never is missing is ordered as its index is. */
const nullable = / \?$/;

const orderSql: Readonly<Record<Exclude<LoopQuery['sort'], 'fit' | 'likeness' | 'heard'>, string>> = {
  added: 'l.added_at',
  title: 'l.title',
  instrument: 'l.family ?, l.instrument ?',
  tempo: 'l.tempo_bpm ?',
  key: "(l.key_tonic * 2 + (l.key_mode = 'minor')::int) ?",
  bars: 'l.bars ?',
  length: 'l.length_seconds',
  loudness: 'l.loudness_lufs ?',
  pack: 'p.name',
  kind: 'l.kind',
};

/** Cost of stretch and shift, as `coarseCost` reckons it; lower is better. */
export function fitCostSql(project: FitContext, weights: { readonly stretch: number; readonly shift: number } = usualWeights): string {
  const stretch = ['1', '2', '0.5'].map((reading) => `abs(ln(l.tempo_bpm * ${reading} / ${project.tempoBpm})) / ln(2)`).join(', ');
  const tempo = `case when l.tempo_bpm is null then ${coarseCosts.unknownTempo} else least(${stretch}) * ${coarseCosts.stretchPerOctave} end`,
    stretchPoints = `${weights.stretch} * (${tempo})`;
  if (!project.key) return stretchPoints;
  const wanted = (project.key.tonic + (project.key.mode === 'minor' ? 3 : 0)) % 12;
  const up = `mod(${wanted} - (l.key_tonic + case l.key_mode when 'minor' then 3 else 0 end) + 24, 12)`;
  return `${stretchPoints} + ${weights.shift} * case when l.pitched is not true or l.family = 'drums' then 0 when l.key_tonic is null then ${coarseCosts.unknownKey} else least(${up}, 12 - ${up}) * ${coarseCosts.shiftPerSemitone} end`;
}

/** The order of a query, and what has to be joined for it. */
export function orderOf(query: LoopQuery, project: FitContext | null): { readonly order: string; readonly join: string } {
  const direction = query.descending ? 'desc' : 'asc',
    order =
      query.sort === 'fit'
        ? project
          ? `${fitCostSql(project)} ${query.descending ? 'asc' : 'desc'}`
          : 'l.added_at desc'
        : orderSql[query.sort === 'likeness' || query.sort === 'heard' ? 'added' : query.sort]
            .split(', ')
            .map((column) => `${column.replace(nullable, '')} ${direction}${nullable.test(column) ? ' nulls last' : ''}`)
            .join(', ');
  return { order, join: query.sort === 'pack' ? 'join packs p on p.id = l.pack_id' : '' };
}

/** A page of rows: ids first by the order's index, then what is shown of them. */
export function pageSql(
  query: LoopQuery,
  conditions: Conditions,
  personId: number,
  project: FitContext | null,
  offset: number,
  limit: number,
): { sql: string; bind: unknown[] } {
  const direction = query.descending ? 'desc' : 'asc',
    { order, join: packJoin } = orderOf(query, project);
  const bind = [...conditions.bind, personId, limit, offset];
  const n = conditions.bind.length;
  return {
    // Ordered and cut first, so that an index gives the order and only the page is numbered.
    sql: `with page as (select id, row_number() over () as place from (select l.id from loops l ${packJoin} where ${conditions.where()} order by ${order}, l.id ${direction} limit $${n + 2} offset $${n + 3}) ordered)
      select ${cardColumns}, exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = $${n + 1}) as favourite from page join loops l on l.id = page.id ${joins} order by page.place`,
    bind,
  };
}

/** Cards by id. */
export const cardsByIdSql = `select ${cardColumns}, exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = $2) as favourite, r.stars, coalesce(r.note, '') as note, ${licenceSql} as licence, l.profile from loops l ${joins} left join ratings r on r.loop_id = l.id and r.person_id = $2 where l.id = any($1::int[])`;

/** Whole rows by id. */
export const rowsByIdSql = `select ${rowColumns}, exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = $2) as favourite, r.stars, coalesce(r.note, '') as note from loops l ${joins} left join ratings r on r.loop_id = l.id and r.person_id = $2 where l.id = any($1::int[])`;

export const lockFileSql = /* sql */ `select pg_advisory_xact_lock(hashtext($1))`;

export const findOrMakeSetSql = /* sql */ `insert into sets (pack_id, stem) values ($1, $2) on conflict (pack_id, stem) do update set stem = excluded.stem returning id`;

export const factsOfLoopSql = /* sql */ `select f.attribute, f.value, f.confidence, f.source, f.alternatives, f.reason, p.name::text as person, f.created_at as at from facts f left join people p on p.id = f.person_id where f.loop_id = $1 and f.superseded_at is null order by f.id`;

export const tagsOfLoopSql = /* sql */ `select t.name::text as name from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = $1 order by t.name`;

export const siblingsSql = /* sql */ `select id, title from loops where set_id = $1 and id <> $2 and archived_at is null order by title`;

export const usedInSql = /* sql */ `
  select p.id, p.name, p.meter, json_agg(json_build_object('startBeat', c.start_beat, 'lengthBeats', c.length_beats) order by c.start_beat) as clips
  from clips c left join patterns n on n.project_id = c.project_id and n.id = c.pattern_id
  join projects p on p.id = c.project_id where coalesce(c.loop_id, n.from_loop_id) = $1 and p.archived_at is null group by p.id, p.name, p.meter order by p.name, p.id`;

export const addFavouriteSql = /* sql */ `insert into favourites (person_id, loop_id) values ($1, $2) on conflict do nothing`;

export const addTagSql = /* sql */ `insert into loop_tags (loop_id, tag_id, person_id) values ($1, $2, $3) on conflict do nothing`;

export const titlesSql = /* sql */ `select id, title from loops where id = any($1::int[])`;
