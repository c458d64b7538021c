/** Frozen history: instruments that a group has beside the common ones. */
export const up = /* sql */ `
create table own_instruments (
  id text primary key check (id ~ '^own-[a-z0-9-]{1,80}$'),
  label text not null check (length(label) between 1 and 60),
  sounds_as text not null,
  words text[] not null default '{}',
  person_id int not null references people,
  created_at timestamptz not null default now(),
  archived_at timestamptz
);
`;

export const down = /* sql */ `
drop table own_instruments;
`;
