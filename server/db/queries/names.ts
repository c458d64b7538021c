export const namesOfPackSql = /* sql */ `select file_name as "fileName" from loops where pack_id = $1 and archived_at is null order by id`;

/** With what was read of their rhythm, by which a stated tempo is understood. */
export const namedLoopsSql = /* sql */ `
  select id, file_name as "fileName", vendor_path as "vendorPath", detail->'readings' as readings from loops where pack_id = $1 and archived_at is null order by id`;

/** What persons said of the names of a pack, and else of others of its vendor, the latest first. */
export const saidPatternsSql = /* sql */ `
  select distinct on (n.signature) n.signature, n.roles, n.pack_id = p.id as own
  from packs p join packs same on same.id = p.id or (p.vendor <> '' and lower(same.vendor) = lower(p.vendor)) join name_patterns n on n.pack_id = same.id and n.person_id is not null
  where p.id = $1 order by n.signature, (n.pack_id = p.id) desc, n.made_at desc`;

export const forgetLearntSql = /* sql */ `delete from name_patterns where pack_id = $1 and person_id is null`;

export const keepPatternSql = /* sql */ `
  insert into name_patterns (pack_id, signature, roles, person_id) values ($1, $2, $3, $4)
  on conflict (pack_id, signature) do update set roles = excluded.roles, person_id = excluded.person_id, made_at = now()`;

export const keepLearntSql = /* sql */ `
  insert into name_patterns (pack_id, signature, roles) values ($1, $2, $3) on conflict (pack_id, signature) do nothing`;

export const forgetPatternSql = /* sql */ `delete from name_patterns where pack_id = $1 and signature = $2`;

export const patternsOfPackSql = /* sql */ `select signature, roles, person_id is not null as said from name_patterns where pack_id = $1`;
