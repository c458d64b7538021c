export const latestProjectOfSql = /* sql */ `select p.id from projects p left join sessions s on s.project_id = p.id and s.person_id = $1 where p.archived_at is null order by s.created_at desc nulls last, p.changed_at desc limit 1`;

export const findSignedInSql = /* sql */ `select p.id, p.name::text as name, p.role, s.project_id as "projectId" from sessions s join people p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > now() and p.archived_at is null`;

export const endSessionsSql = /* sql */ `delete from sessions where person_id = $1 and token_hash <> $2 returning encode(token_hash, 'hex') as name`;

export const setSessionProjectSql = /* sql */ `update sessions set project_id = (select id from projects where id = $2 and archived_at is null) where token_hash = $1`;
