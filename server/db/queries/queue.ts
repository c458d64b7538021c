export const addJobsSql = /* sql */ `select count(graphile_worker.add_job($1, job->'payload', job_key := job->>'key', max_attempts := $3, priority := $4)) from json_array_elements($2::json) job`;
