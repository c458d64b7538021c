export const packsSql = /* sql */ `select p.id, p.name, p.vendor, p.licence, p.description, p.cover_id as "coverId", a.name::text as "addedBy", p.added_at as "addedAt",
    c.loops, c."oneShots", c.notes,
    coalesce((select json_agg(json_build_object('family', f.family, 'count', f.n) order by f.n desc) from (select family, count(*)::int as n from loops where pack_id = p.id and archived_at is null and family is not null group by family) f), '[]') as families,
    coalesce((select json_agg(o.overview) from (select encode(overview, 'base64') as overview from loops where pack_id = p.id and archived_at is null and media = 'audio' order by id limit 7) o), '[]') as overviews
    from (select * from packs where (archived_at is not null) = $1 order by added_at desc, id desc limit $2) p join people a on a.id = p.added_by
    cross join lateral (select count(*) filter (where kind in ('loop', 'full-mix'))::int as loops, count(*) filter (where kind in ('one-shot', 'phrase'))::int as "oneShots", count(*) filter (where media = 'midi')::int as notes from loops where pack_id = p.id and archived_at is null) c
    order by p.added_at desc, p.id desc`;

export const packNamesSql = /* sql */ `select id, name, vendor from packs where archived_at is null order by name`;

export const linkLoopSql = /* sql */ `insert into pack_links (pack_id, loop_id, vendor_path) values ($1, $2, $3) on conflict do nothing`;

export const packHasLoopsSql = /* sql */ `select exists (select 1 from loops where pack_id = $1) or exists (select 1 from pack_links where pack_id = $1) as has`;

/** Whether a loop of `loops` belongs to a further pack that is not put away. */
export const isListedElsewhere = `exists (select 1 from pack_links k join packs other on other.id = k.pack_id where k.loop_id = loops.id and other.archived_at is null)`;

/** Loops are locked by their numbers, as `lockLoops` does, and not as they happen to lie. */
const inOrder = 'order by id for no key update';

/** Loops go with their pack and bear its time, but for those that another one lists. */
export const archiveLoopsOfPackSql = /* sql */ `update loops set archived_at = $2 where id in (select id from loops where pack_id = $1 and archived_at is null and not ${isListedElsewhere} ${inOrder})`;

/** Those that went with it; what had been archived by itself before stays so. */
export const restoreLoopsOfPackSql = /* sql */ `update loops set archived_at = null where id in (select id from loops where pack_id = $1 and archived_at >= $2 ${inOrder})`;

/** Whether a pack has anything to show: loops that are not put away, its own or another's. */
export const packShowsLoopsSql = /* sql */ `
  select exists (select 1 from loops where archived_at is null and (pack_id = $1 or id = any(array(select loop_id from pack_links where pack_id = $1)))) as shows`;
