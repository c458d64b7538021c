export const forgetHeartbeatsSql = /* sql */ `delete from worker_heartbeats where worker_id = any($1::text[])`;

export const spentJobsSql = /* sql */ `select j.id::text, t.identifier as name, j.payload from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
    where j.locked_at is null and j.attempts >= j.max_attempts and t.identifier = any($1::text[])`;

export const silentWorkersSql = /* sql */ `select distinct j.locked_by as id from graphile_worker._private_jobs j left join worker_heartbeats h on h.worker_id = j.locked_by
    where j.locked_by is not null and coalesce(h.seen_at, j.locked_at) < now() - make_interval(secs => $1) and j.locked_at < now() - make_interval(secs => $1)`;

export const forgetOldHeartbeatsSql = /* sql */ `delete from worker_heartbeats where seen_at < now() - interval '1 day'`;

export const beatSql = /* sql */ `insert into worker_heartbeats (worker_id, seen_at) select unnest($1::text[]), now() on conflict (worker_id) do update set seen_at = now()`;
