/** What is kept beside a project's tree: its named states, and notes to its bars. */
export const versionsSql = /* sql */ `
  select v.id, v.name, v.revision, v.at, p.name::text as person, v.person_id = $2 as "isOwn" from project_versions v join people p on p.id = v.person_id where v.project_id = $1 and v.gone_at is null order by v.at desc, v.id desc limit 200`;
export const versionSql = /* sql */ `select project, name, revision from project_versions where project_id = $1 and id = $2 and gone_at is null`;
export const keepVersionSql = /* sql */ `insert into project_versions (project_id, name, revision, project, person_id) values ($1, $2, $3, $4, $5) returning id`;
export const dropVersionSql = /* sql */ `update project_versions set gone_at = now() where project_id = $1 and id = $2 and gone_at is null returning name`;
export const restoreVersionSql = /* sql */ `update project_versions set gone_at = null where project_id = $1 and id = $2 and gone_at is not null returning id`;
/** Who forgot it has had a day to think better of it. */
export const forgetGoneSql = /* sql */ `
  with versions as (delete from project_versions where gone_at < now() - interval '1 day') delete from project_notes where gone_at < now() - interval '1 day'`;

export const notesSql = /* sql */ `
  select n.id, n.answers_id as "answersId", n.beat, n.note, n.at, p.name::text as person, n.person_id = $2 as "isOwn", n.done_at as "doneAt", d.name::text as "doneBy"
  from project_notes n join people p on p.id = n.person_id left join people d on d.id = n.done_by
  where n.project_id = $1 and n.gone_at is null and not exists (select 1 from project_notes a where a.id = n.answers_id and a.gone_at is not null) order by n.beat, n.id limit 1000`;
/** An answer stands where what it answers stands. Of a note of another project none is made. */
export const addNoteSql = /* sql */ `
  insert into project_notes (project_id, answers_id, beat, note, person_id)
  select $1, $2::int, coalesce((select beat from project_notes where id = $2::int), $3), $4, $5 where $2::int is null or exists (select 1 from project_notes where id = $2::int and project_id = $1 and answers_id is null and gone_at is null) returning id`;
export const tickNoteSql = /* sql */ `
  update project_notes set done_at = case when $3 then now() end, done_by = case when $3 then $4::int end where project_id = $1 and id = $2 and answers_id is null and gone_at is null returning id`;
/** Only one's own; what answers it is out of sight with it. */
export const dropNoteSql = /* sql */ `update project_notes set gone_at = now() where project_id = $1 and id = $2 and person_id = $3 and gone_at is null returning id`;
export const restoreNoteSql = /* sql */ `update project_notes set gone_at = null where project_id = $1 and id = $2 and person_id = $3 and gone_at is not null returning id`;
