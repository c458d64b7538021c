export const addSourcesSql = /* sql */ `
insert into making_sources (making_id, loop_id) select $1, id from loops where id = any($2::int[]) on conflict do nothing`;

/** What loops were made of, down to what was not made here; `madeId` is the loop that was asked for. */
export const sourcesOfMadeSql = /* sql */ `
with recursive made_of(made_id, loop_id) as (
    select m.loop_id, s.loop_id from makings m join making_sources s on s.making_id = m.id where m.loop_id = any($1::int[])
  union
    select made_of.made_id, s.loop_id from made_of
    join makings m on m.loop_id = made_of.loop_id join making_sources s on s.making_id = m.id
)
select made_of.made_id as "madeId", l.id as "loopId", l.title, p.id as "packId", p.name as "packName", p.licence
from made_of join loops l on l.id = made_of.loop_id join packs p on p.id = l.pack_id
order by made_of.made_id, l.title, l.id`;

/** Puts a pack of the group's own away that nothing came into, and nothing will. */
export const archiveEmptyPackSql = /* sql */ `
update packs set archived_at = now() where id = $1 and is_own and archived_at is null
  and not exists (select 1 from loops where pack_id = $1) and not exists (select 1 from makings where pack_id = $1 and state in ('queued', 'working'))`;

export const ownPacksSql = /* sql */ `
select id, name, vendor, licence from packs where is_own and archived_at is null order by id desc limit 100`;

export const sameNamesSql = /* sql */ `
select id, title from loops where pack_id = $1 and archived_at is null and lower(title) = any($2::text[])`;
