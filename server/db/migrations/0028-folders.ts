/** Frozen history: folders of the server's own machine from which loops come in. */
export const up = /* sql */ `
create table watched_folders (
  id int generated always as identity primary key,
  path text not null unique,
  person_id int not null references people,
  pack_id int references packs on delete set null,
  pack_name text not null check (length(pack_name) between 1 and 200),
  vendor text not null default '',
  licence text not null default '',
  description text not null default '',
  tags text[] not null default '{}',
  leave_out text[] not null default '{}',
  duplicates text not null default 'skip' check (duplicates in ('skip', 'link', 'keep')),
  is_watched boolean not null default false,
  message text,
  looked_at timestamptz,
  created_at timestamptz not null default now()
);
create table folder_files (
  folder_id int not null references watched_folders on delete cascade,
  path text not null,
  bytes bigint not null,
  modified_ms double precision not null,
  file_sha256 char(64) not null,
  vendor_path text not null,
  primary key (folder_id, path)
);
alter table import_batches add folder_id int references watched_folders on delete set null;
create index import_batches_folder on import_batches (folder_id) where folder_id is not null;
`;

export const down = /* sql */ `
alter table import_batches drop column folder_id;
drop table folder_files;
drop table watched_folders;
`;
