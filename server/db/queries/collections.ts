export const collectionsSql = /* sql */ `
  select c.id, c.name, p.name::text as person, c.person_id as "personId", c.created_at as "madeAt", count(l.id)::int as loops, c.rule, c.parent_id as "parentId", c.is_private as "isPrivate"
  from collections c join people p on p.id = c.person_id left join collection_loops cl on cl.collection_id = c.id left join loops l on l.id = cl.loop_id and l.archived_at is null
  where c.archived_at is null and (not c.is_private or c.person_id = $1) group by c.id, p.name order by lower(c.name), c.id`;

/** A person's collection of a name, made when there is none. */
export const findOrMakeCollectionSql = /* sql */ `
  insert into collections (name, person_id) values ($1, $2) on conflict (person_id, lower(name)) where archived_at is null do update set name = collections.name returning id`;

export const collectSql = /* sql */ `
  insert into collection_loops (collection_id, loop_id, position) values ($1, $2, coalesce((select max(position) + 1 from collection_loops where collection_id = $1), 0)) on conflict do nothing`;

export const uncollectSql = /* sql */ `delete from collection_loops where collection_id = $1 and loop_id = $2`;

export const isCollectedSql = /* sql */ `
  select 1 from collection_loops cl join collections c on c.id = cl.collection_id where c.person_id = $1 and lower(c.name) = lower($2) and c.archived_at is null and cl.loop_id = $3`;

export const changeCollectionSql = /* sql */ `
  update collections set name = coalesce($3, name), archived_at = case when $4::boolean is null then archived_at when $4 then now() else null end where id = $1 and person_id = $2 returning id`;
