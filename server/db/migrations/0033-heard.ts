/** Frozen history: what people have heard, when, over which project, and what was done to it. */
export const up = /* sql */ `
create table heard (
  id bigint generated always as identity primary key,
  person_id int not null references people on delete cascade,
  loop_id int not null references loops on delete cascade,
  project_id int references projects on delete set null,
  overrides jsonb not null default '{}',
  offset_beats real not null default 0,
  at timestamptz not null default now()
);
create index heard_lately on heard (person_id, at desc, id desc);
create index heard_loop on heard (loop_id);
`;

export const down = /* sql */ `
drop table heard;
`;
