import { documentsByExtension } from '~core/formats/documents';
import { fileTransitions, waitingFileStates } from '~core/imports/states';

const waitingStates = waitingFileStates.map((state) => `'${state}'`).join(', ');

export const batchesSql = /* sql */ `
    select b.id, b.pack_id as "packId", b.pack_name as "packName", b.vendor, b.state, b.message, p.name::text as person, b.created_at as "createdAt",
      count(f.id) filter (where f.state = 'queued')::int as queued, count(f.id) filter (where f.state = 'working')::int as working, count(f.id) filter (where f.state = 'done' and f.loop_id is not null)::int as done, count(f.id) filter (where f.state = 'kept')::int as kept, count(f.id) filter (where f.state = 'failed')::int as failed,
      coalesce(bool_or(f.state in (${waitingStates}) and f.path ilike '%.zip'), false) as "isPacked",
      count(f.id) filter (where f.state = 'duplicate')::int as duplicate, count(f.id) filter (where f.state = 'left-aside')::int as aside, count(f.loop_id) filter (where f.state = 'done')::int as loops, count(l.id) filter (where l.archived_at is not null and f.state = 'done')::int as archived,
      coalesce(sum(f.bytes), 0)::float8 as bytes, coalesce(sum(l.length_seconds) filter (where f.state = 'done'), 0)::float8 as seconds, b.touched_at as "startedAt"
    from import_batches b join people p on p.id = b.person_id left join import_files f on f.batch_id = b.id left join loops l on l.id = f.loop_id where b.state <> 'receiving' group by b.id, p.name order by b.id desc limit $1`;

/** Those that wait for loops from outside are nobody's to go on with. */
export const openBatchesSql = /* sql */ `
  select b.id, b.pack_name as "packName", coalesce(array_agg(f.path order by f.path) filter (where f.path is not null), '{}') as paths
  from import_batches b left join import_files f on f.batch_id = b.id
  where b.person_id = $1 and b.state = 'receiving' and not exists (select 1 from taken_files t where t.batch_id = b.id)
  group by b.id order by b.id desc limit 8`;

export const batchFilesSql = /* sql */ `select id::text, path, state, message, loop_id as "loopId", bytes::float8 as bytes from import_files where batch_id = $1 order by case state when 'failed' then 0 when 'working' then 1 when 'duplicate' then 2 when 'queued' then 3 when 'left-aside' then 4 when 'kept' then 5 else 6 end, path limit $2 offset $3`;

export const recordFileSql = /* sql */ `insert into import_files (batch_id, path, bytes, file_sha256, state, message) values ($1, $2, $3, $4, $5, $6) on conflict (batch_id, path) do update set bytes = excluded.bytes, file_sha256 = excluded.file_sha256, state = excluded.state, message = excluded.message`;

/** Archives and documents are nobody's twins: they are put where they belong apart from sounds. */
const noSoundPattern = `[.](${['zip', ...Object.keys(documentsByExtension)].join('|')})$`;

export const markTwinsSql = /* sql */ `update import_files f set state = '${fileTransitions.know.to}', message = 'the same file as “' || twin.path || '”'
      from (
        select id, first_value(id) over alike as first_id, first_value(path) over alike as path from import_files
        where batch_id = $1 and file_sha256 is not null and state <> '${fileTransitions.fail.to}' and lower(path) !~ '${noSoundPattern}' window alike as (partition by file_sha256 order by id)
      ) twin
      where f.id = twin.id and twin.first_id <> f.id and f.state = 'queued'`;

export const vendorHabitsSql = /* sql */ `
  select vendor, licence, tags, leave_out as "leaveOut", duplicates from (
    select distinct on (lower(vendor)) vendor, licence, tags, leave_out, duplicates, id from import_batches where vendor <> '' and state <> 'receiving' order by lower(vendor), id desc
  ) latest order by id desc limit 200`;
