/** Frozen history: loops that sound the same though their files differ, and what people made of them. */
export const up = /* sql */ `
create table sound_twins (
  id int generated always as identity primary key,
  first_id int not null references loops on delete cascade,
  second_id int not null references loops on delete cascade,
  differing real not null,
  state text not null default 'open' check (state in ('open', 'apart', 'merged')),
  decided_by int references people,
  decided_at timestamptz,
  undo jsonb,
  unique (first_id, second_id),
  check (first_id < second_id)
);
create index sound_twins_second on sound_twins (second_id);
create index sound_twins_open on sound_twins (id) where state = 'open';
create index loops_by_length on loops (length_seconds) where archived_at is null and fingerprint is not null;
`;

export const down = /* sql */ `
drop index loops_by_length;
drop table sound_twins;
`;
