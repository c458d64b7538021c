export const keepStepsSql = /* sql */ `
  insert into project_edits (project_id, revision, step_id, edit, inverse, undoes, person_id)
  select $1, (s->>'revision')::int, s->>'stepId', s->'edit', s->'inverse', s->>'undoes', $3 from jsonb_array_elements($2::jsonb) s`;

/** Which of these steps have been taken already: an answer may get lost, and the step is sent again. */
export const knownStepsSql = /* sql */ `select step_id as "stepId" from project_edits where project_id = $1 and step_id = any($2::text[])`;

export const stepsSinceSql = /* sql */ `
  select revision, step_id as "stepId", edit, undoes from project_edits where project_id = $1 and revision > $2 order by revision limit $3`;

/** What a person did last, in order, for going back behind a reload. */
export const ownStepsSql = /* sql */ `
  select * from (select revision, step_id as "stepId", edit, inverse, undoes from project_edits where project_id = $1 and person_id = $2 order by revision desc limit $3) latest order by revision`;
