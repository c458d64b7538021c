import type { FitContext } from '~core/search/fit/coarse';
import type { LoopQuery } from '~core/search/query';
import type { Conditions } from './loop-filter';
import { orderOf } from './loops';

/** Ids of what a search finds, in the order in which the list shows it. */
export const idsSql = (conditions: Conditions, query: LoopQuery, project: FitContext | null): { sql: string; bind: unknown[] } => {
  const { join, order } = orderOf(query, project),
    n = conditions.bind.length;
  return {
    sql: `select l.id from loops l ${join} where ${conditions.where()} order by ${order}, l.id ${query.descending ? 'desc' : 'asc'} limit $${n + 1} offset $${n + 2}`,
    bind: conditions.bind,
  };
};

/** What a change may look at of a loop, and what it must be able to bring back. */
export const changeableSql = /* sql */ `
  select l.id, l.title, l.file_name as file, l.pack_id as "packId", l.set_id as "setId", p.name as pack, l.instrument, l.tempo_bpm as "tempoBpm",
    l.key_tonic as "keyTonic", l.key_mode as "keyMode", l.pitched, l.archived_at as "archivedAt", l.kind, s.stem as "setStem",
    (select coalesce(jsonb_agg(t.name order by t.name), '[]') from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = l.id) as tags,
    (select coalesce(jsonb_agg(lower(c.name)), '[]') from collection_loops cl join collections c on c.id = cl.collection_id where cl.loop_id = l.id and c.person_id = $2 and c.archived_at is null) as collections,
    (select coalesce(jsonb_object_agg(f.attribute, jsonb_build_object('value', f.value)), '{}') from facts f where f.loop_id = l.id and f.source = 'person' and f.superseded_at is null) as words
  from loops l join packs p on p.id = l.pack_id left join sets s on s.id = l.set_id where l.id = any($1::int[])`;

export const makeChangeSql = /* sql */ `insert into loop_changes (person_id, change, loop_ids) values ($1, $2, $3) returning id`;
export const lockChangeSql = /* sql */ `select id, person_id as "personId", change, loop_ids as "loopIds", state from loop_changes where id = $1 for update`;
export const findChangeSql = /* sql */ `select id, person_id as "personId", change, loop_ids as "loopIds", state from loop_changes where id = $1`;
export const setChangeStateSql = /* sql */ `update loop_changes set state = $2, ended_at = now() where id = $1`;
/** Loops of a change that were not changed yet, with their places. */
export const leftOfChangeSql = /* sql */ `
  select w.id::int as id, w.place::int as place from loop_changes c, unnest(c.loop_ids) with ordinality w(id, place)
  where c.id = $1 and exists (select 1 from loops l where l.id = w.id) and not exists (select 1 from changed_loops d where d.change_id = c.id and d.loop_id = w.id) order by w.place limit $2`;
export const rememberBeforeSql = /* sql */ `insert into changed_loops (change_id, loop_id, place, before) values ($1, $2, $3, $4) on conflict do nothing`;
export const leftToUndoSql = /* sql */ `select loop_id as "loopId", before from changed_loops where change_id = $1 and not undone order by place limit $2`;
export const markUndoneSql = /* sql */ `update changed_loops set undone = true where change_id = $1 and loop_id = any($2::int[])`;
export const listChangesSql = /* sql */ `
  select c.id, c.change, cardinality(c.loop_ids) as loops, c.state, c.made_at as "madeAt", p.name::text as person from loop_changes c join people p on p.id = c.person_id
  order by c.id desc limit $1`;
/** Which of these loops are of a person's bringing; the others are a keeper's to archive. */
export const othersAmongSql = /* sql */ `select count(*)::int as count from loops where id = any($1::int[]) and added_by <> $2`;
