export const collectionsSql = /* sql */ `
  select c.id, c.name, p.name::text as person, c.person_id as "personId", c.created_at as "madeAt", count(l.id)::int as loops, c.rule, c.parent_id as "parentId", c.is_private as "isPrivate"
  from collections c join people p on p.id = c.person_id left join collection_loops cl on cl.collection_id = c.id left join loops l on l.id = cl.loop_id and l.archived_at is null
  where c.archived_at is null and (not c.is_private or c.person_id = $1) group by c.id, p.name order by lower(c.name), c.id`;

/** A collection with those that lie in it, all the way down. */
export const collectionTreeSql = /* sql */ `
  with recursive inside as (
    select id from collections where id = $1::int and (not is_private or person_id = $2)
    union select c.id from collections c join inside i on c.parent_id = i.id where c.archived_at is null and (not c.is_private or c.person_id = $2))
  select c.id, c.rule from inside join collections c on c.id = inside.id`;

/** Loops of a collection in their own order. */
export const collectedSql = /* sql */ `
  select cl.loop_id as id from collection_loops cl join loops l on l.id = cl.loop_id and l.archived_at is null where cl.collection_id = $1 order by cl.position, cl.loop_id limit $2`;

/** Puts the loops of one's own collection into an order; what is not named keeps behind them. */
export const orderCollectedSql = /* sql */ `
  update collection_loops cl set position = w.place from unnest($2::int[]) with ordinality w(id, place)
  where cl.collection_id = $1 and cl.loop_id = w.id`;

export const newCollectionSql = /* sql */ `insert into collections (name, person_id, rule, parent_id) values ($1, $2, $3, $4) returning id`;

/** Whether a collection is there and a person's own. */
export const ownCollectionSql = /* sql */ `select 1 from collections where id = $1 and person_id = $2 and archived_at is null`;

/** Whether moving a collection below another would put it into itself. */
export const wouldTurnSql = /* sql */ `
  with recursive above as (select $2::int as id union select c.parent_id from collections c join above a on c.id = a.id where c.parent_id is not null)
  select 1 from above where id = $1`;

/** A person's collection of a name, made when there is none. */
export const findOrMakeCollectionSql = /* sql */ `
  insert into collections (name, person_id) values ($1, $2) on conflict (person_id, lower(name)) where archived_at is null do update set name = collections.name returning id`;

export const collectSql = /* sql */ `
  insert into collection_loops (collection_id, loop_id, position) values ($1, $2, coalesce((select max(position) + 1 from collection_loops where collection_id = $1), 0)) on conflict do nothing`;

/** Puts a loop at a place that it had; what lies in it again by now stays where it is. */
export const collectAtSql = /* sql */ `
  insert into collection_loops (collection_id, loop_id, position) values ($1, $2, $3) on conflict do nothing`;

export const uncollectSql = /* sql */ `delete from collection_loops where collection_id = $1 and loop_id = $2`;

/** Where in a collection a loop lies; no row where it does not. */
export const placeInCollectionSql = /* sql */ `select position from collection_loops where collection_id = $1 and loop_id = $2`;

export const changeCollectionSql = /* sql */ `
  update collections set name = coalesce($3, name), is_private = coalesce($5, is_private), parent_id = case when $6::int is null then parent_id when $6 = 0 then null else $6 end, archived_at = case when $4::boolean is null then archived_at when $4 then now() else null end where id = $1 and person_id = $2 returning id`;
