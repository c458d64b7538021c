/** What a person heard last. */
export const lastHeardSql = /* sql */ `select id, loop_id as "loopId", project_id as "projectId" from heard where person_id = $1 order by at desc, id desc limit 1`;

export const hearSql = /* sql */ `insert into heard (person_id, loop_id, project_id, overrides, offset_beats) select $1, id, (select id from projects where id = $3), $4, $5 from loops where id = $2`;

/** The same once more, or done otherwise: it is one hearing still. */
export const hearOnSql = /* sql */ `update heard set overrides = $2, offset_beats = $3, at = now() where id = $1`;

export const heardSql = /* sql */ `
  select h.id::text, h.loop_id as "loopId", h.project_id as "projectId", p.name as "projectName", h.overrides, h.offset_beats as "offsetBeats", h.at
  from heard h left join projects p on p.id = h.project_id where h.person_id = $1 order by h.at desc, h.id desc limit $2`;

/** What lies behind the last thousand of a person is forgotten. */
export const forgetHeardSql = /* sql */ `
  delete from heard where person_id = $1 and id not in (select id from heard where person_id = $1 order by at desc, id desc limit 1000)`;
