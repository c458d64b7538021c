/** Frozen history: changes to many loops at once, with what was before, so that each is one step that can be undone. */
export const up = /* sql */ `
create table loop_changes (
  id int generated always as identity primary key,
  person_id int not null references people,
  change jsonb not null,
  loop_ids int[] not null,
  state text not null default 'queued' check (state in ('queued', 'done', 'undoing', 'undone')),
  made_at timestamptz not null default now(),
  ended_at timestamptz
);
create index loop_changes_person on loop_changes (person_id, id desc);
create table changed_loops (
  change_id int not null references loop_changes on delete cascade,
  loop_id int not null references loops on delete cascade,
  place int not null,
  before jsonb not null,
  undone boolean not null default false,
  primary key (change_id, loop_id)
);
create index changed_loops_loop on changed_loops (loop_id);
`;

export const down = /* sql */ `
drop table changed_loops;
drop table loop_changes;
`;
