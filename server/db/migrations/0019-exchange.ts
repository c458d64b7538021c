/** Frozen history: what was heard and taken from exchanges outside, and people's keys there. */
export const up = /* sql */ `
create table exchange_keys (
  person_id int not null references people on delete cascade,
  source text not null,
  sealed bytea not null,
  changed_at timestamptz not null default now(),
  primary key (person_id, source)
);
create table outside_loops (
  id int generated always as identity primary key,
  source text not null,
  outside_id text not null,
  told jsonb not null,
  file_sha256 char(64),
  sound_sha256 char(64),
  heard jsonb,
  heard_at timestamptz,
  unique (source, outside_id)
);
create index outside_loops_file on outside_loops (file_sha256) where file_sha256 is not null;
create index outside_loops_sound on outside_loops (sound_sha256) where sound_sha256 is not null;
create table taken_files (
  batch_id int not null references import_batches on delete cascade,
  path text not null,
  outside_loop_id int not null references outside_loops,
  primary key (batch_id, path)
);
create index taken_files_outside on taken_files (outside_loop_id);
`;

export const down = /* sql */ `
drop table taken_files;
drop table outside_loops;
drop table exchange_keys;
`;
