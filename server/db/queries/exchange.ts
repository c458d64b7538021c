/** Loops that outside ones have become, by their ids there. A file that was here already counts as well. */
export const loopsOfOutsideSql = /* sql */ `
  select o.outside_id as "outsideId", min(l.id) as "loopId" from outside_loops o
  join taken_files t on t.outside_loop_id = o.id join import_files f on f.batch_id = t.batch_id and f.path = t.path
  join loops l on l.id = f.loop_id and l.archived_at is null
  where o.source = $1 and o.outside_id = any($2::text[]) group by o.outside_id`;

/** Where loops come from that were taken outside. */
export const originsSql = /* sql */ `
  select distinct on (f.loop_id) f.loop_id as "loopId", o.source, o.told from import_files f
  join taken_files t on t.batch_id = f.batch_id and t.path = f.path join outside_loops o on o.id = t.outside_loop_id
  where f.loop_id = any($1::int[]) order by f.loop_id, f.id`;

/** The pack that loops of a pack outside went into before; none once it is archived. */
export const packOfOutsideSql = /* sql */ `
  select b.pack_id as id from outside_loops o join taken_files t on t.outside_loop_id = o.id join import_batches b on b.id = t.batch_id
  join packs p on p.id = b.pack_id and p.archived_at is null
  where o.source = $1 and o.told->>'packId' = $2 order by b.id desc limit 1`;

/** What a person has taken lately, with how far it is. */
export const takesSql = /* sql */ `
  select b.id as "batchId", b.pack_name as "packName", b.pack_id as "packId", b.state, b.message,
    count(t.path)::int as wanted, count(f.id)::int as received, count(f.id) filter (where f.state = 'done')::int as done,
    count(f.id) filter (where f.state = 'failed')::int as failed, count(f.id) filter (where f.state = 'duplicate')::int as duplicate
  from import_batches b join taken_files t on t.batch_id = b.id left join import_files f on f.batch_id = t.batch_id and f.path = t.path
  where b.person_id = $1 and b.created_at > now() - interval '1 day' group by b.id order by b.id desc limit 6`;

export const upsertOutsideSql = /* sql */ `
  insert into outside_loops (source, outside_id, told) values ($1, $2, $3)
  on conflict (source, outside_id) do update set told = excluded.told returning id`;

export const keepKeySql = /* sql */ `
  insert into exchange_keys (person_id, source, sealed) values ($1, $2, $3)
  on conflict (person_id, source) do update set sealed = excluded.sealed, changed_at = now()`;

export const keyOfSql = /* sql */ `select sealed from exchange_keys where person_id = $1 and source = $2`;
export const dropKeySql = /* sql */ `delete from exchange_keys where person_id = $1 and source = $2`;

export const rememberTakenSql = /* sql */ `
  insert into taken_files (batch_id, path, outside_loop_id) values ($1, $2, $3) on conflict (batch_id, path) do nothing`;

/** Sounds that were only listened to, a week ago, with what was heard in them. */
export const forgetHeardSql = /* sql */ `
  with old as (select id, file_sha256, sound_sha256 from outside_loops where heard_at < now() - interval '7 days')
  update outside_loops o set file_sha256 = null, sound_sha256 = null, heard = null, heard_at = null from old where old.id = o.id
  returning old.file_sha256 as file, old.sound_sha256 as sound`;

/** Files that were to be taken and did not come. */
export const missingTakenSql = /* sql */ `
  select t.path from taken_files t left join import_files f on f.batch_id = t.batch_id and f.path = t.path where t.batch_id = $1 and f.id is null`;
