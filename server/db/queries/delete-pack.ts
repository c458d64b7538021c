import { isListedElsewhere } from './packs';

export const packToDeleteSql = /* sql */ `select name, archived_at is not null as archived from packs where id = $1`;

/** What the named states of projects play: they are brought back with it. */
const kept = ['loopId', 'fromLoopId']
  .map((name) => `select jsonb_path_query(project, '$.**.${name}') as id from project_versions`)
  .join(' union all ');

/** Loops of the pack that no project uses, now or in a version, and no other pack that is there lists. */
const unused = `loops.id not in (select (k.id #>> '{}')::int from (${kept}) k where jsonb_typeof(k.id) = 'number') and pack_id = $1 and not exists (select 1 from clips c where c.loop_id = loops.id) and not exists (select 1 from patterns n where n.from_loop_id = loops.id) and not ${isListedElsewhere}`;

export const forgetUnusedSql = `update import_files set loop_id = null where loop_id in (select id from loops where ${unused})`;

export const deleteUnusedSql = `delete from loops where id in (select id from loops where ${unused} order by id for update) returning file_sha256 as file, sound_sha256 as sound`;

export const loopsLeftSql = 'select count(*)::int as left from loops where pack_id = $1';

export const forgetPackSql = 'update import_batches set pack_id = null where pack_id = $1';

/** Goes with the pack itself. */
export const documentsOfPackSql = `
  select file_sha256 as file from pack_documents where pack_id = $1 union select file_sha256 from pack_demos where pack_id = $1 and file_sha256 is not null`;

export const deletePackSql = 'delete from packs where id = $1';
