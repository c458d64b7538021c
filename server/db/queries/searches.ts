/** A person's kept searches and those that others share, pinned ones first. */
export const searchesSql = /* sql */ `
  select s.id, s.name, s.address, s.is_shared as "isShared", s.is_pinned as "isPinned", p.name::text as person, s.person_id = $1 as "isOwn" from kept_searches s join people p on p.id = s.person_id
  where s.person_id = $1 or s.is_shared order by s.person_id = $1 desc, s.is_pinned desc, lower(s.name), s.id limit 200`;

/** Keeps a search under a name; one of that name takes the new one. */
export const keepSearchSql = /* sql */ `
  insert into kept_searches (person_id, name, address) values ($1, $2, $3) on conflict (person_id, lower(name)) do update set address = excluded.address, name = excluded.name returning id`;

export const changeSearchSql = /* sql */ `
  update kept_searches set name = coalesce($3, name), is_shared = coalesce($4, is_shared), is_pinned = coalesce($5, is_pinned) where id = $1 and person_id = $2 returning id`;

export const forgetSearchSql = /* sql */ `delete from kept_searches where id = $1 and person_id = $2 returning name, address, is_shared as "isShared", is_pinned as "isPinned"`;

export const recentSearchesSql = /* sql */ `select address from recent_searches where person_id = $1 order by at desc limit $2`;
export const rememberSearchSql = /* sql */ `insert into recent_searches (person_id, address) values ($1, $2) on conflict (person_id, address) do update set at = now()`;
/** Behind the last thirty all is forgotten. */
export const forgetRecentSql = /* sql */ `
  delete from recent_searches where person_id = $1 and address not in (select address from recent_searches where person_id = $1 order by at desc limit 30)`;

/** $3: whether stars are said; $5: the note, or null where none is said. */
export const rateSql = /* sql */ `
  insert into ratings (person_id, loop_id, stars, note) values ($1, $2, $4, coalesce($5, '')) on conflict (person_id, loop_id) do update
    set stars = case when $3 then excluded.stars else ratings.stars end, note = coalesce($5, ratings.note), changed_at = now()`;
/** Of what holds nothing any more. */
export const unrateSql = /* sql */ `delete from ratings where person_id = $1 and loop_id = $2 and stars is null and note = ''`;
/** What everybody gave it. */
export const ratingsOfSql = /* sql */ `select p.name::text as person, r.stars, r.note, r.person_id = $2 as "isOwn" from ratings r join people p on p.id = r.person_id where r.loop_id = $1 order by r.changed_at desc`;

export const askedSoundSql = /* sql */ `select name, likeness, profile from asked_sounds where id = $1 and person_id = $2`;
export const addAskedSql = /* sql */ `insert into asked_sounds (person_id, name, file_sha256) values ($1, $2, $3) returning id`;
export const heardAskedSql = /* sql */ `update asked_sounds set file_sha256 = null, likeness = $2, profile = $3 where id = $1`;
/** What was asked a month ago nobody goes back to. */
export const forgetAskedSql = /* sql */ `delete from asked_sounds where at < now() - interval '30 days'`;
