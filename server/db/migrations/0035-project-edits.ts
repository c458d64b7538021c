/** Frozen history: what was done to a project, step by step, with what takes each back; the tables of tracks and clips stay what it all comes to. */
export const up = /* sql */ `
create table project_edits (
  project_id int not null references projects on delete cascade,
  revision int not null,
  step_id text not null check (length(step_id) between 1 and 64),
  edit jsonb not null,
  inverse jsonb not null,
  undoes text,
  person_id int references people,
  at timestamptz not null default now(),
  primary key (project_id, revision)
);
create unique index project_edits_step on project_edits (project_id, step_id);
create index project_edits_person on project_edits (project_id, person_id, revision desc);
`;

export const down = /* sql */ `
drop table project_edits;
`;
