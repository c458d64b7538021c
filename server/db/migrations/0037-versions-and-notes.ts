/** Frozen history: named states of a project, and what is said to a bar of it. */
export const up = /* sql */ `
create table project_versions (
  id int generated always as identity primary key,
  project_id int not null references projects on delete cascade,
  name text not null check (length(name) between 1 and 120),
  revision int not null,
  project jsonb not null,
  person_id int not null references people,
  at timestamptz not null default now()
);
create index on project_versions (project_id, at desc);
create table project_notes (
  id int generated always as identity primary key,
  project_id int not null references projects on delete cascade,
  answers_id int references project_notes on delete cascade,
  beat double precision not null check (beat >= 0),
  note text not null check (length(note) between 1 and 500),
  person_id int not null references people,
  at timestamptz not null default now(),
  done_at timestamptz,
  done_by int references people
);
create index on project_notes (project_id, beat);
create index on project_notes (answers_id);
`;

export const down = /* sql */ `
drop table project_notes;
drop table project_versions;
`;
