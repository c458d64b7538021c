/** Frozen history: what a pack brings beside its sounds, its cover, and what becomes of files that are in the library already. */
export const up = /* sql */ `
create table pack_documents (
  id int generated always as identity primary key,
  pack_id int not null references packs on delete cascade,
  path text not null check (length(path) between 1 and 2000),
  kind text not null check (kind in ('text', 'pdf', 'picture')),
  media_type text not null,
  bytes bigint not null,
  file_sha256 char(64) not null,
  added_at timestamptz not null default now(),
  unique (pack_id, path)
);
create index pack_documents_file on pack_documents (file_sha256);
alter table packs add cover_id int references pack_documents on delete set null;

create table pack_links (
  pack_id int not null references packs on delete cascade,
  loop_id int not null references loops on delete cascade,
  vendor_path text not null,
  primary key (pack_id, loop_id)
);
create index pack_links_loop on pack_links (loop_id);

alter table import_batches add duplicates text not null default 'skip' check (duplicates in ('skip', 'link', 'keep'));
alter table import_files drop constraint if exists import_files_state_check;
alter table import_files add constraint import_files_state_check check (state in ('queued', 'working', 'done', 'kept', 'failed', 'duplicate', 'left-aside'));
`;

export const down = /* sql */ `
update import_files set state = 'left-aside' where state = 'kept';
alter table import_files drop constraint if exists import_files_state_check;
alter table import_files add constraint import_files_state_check check (state in ('queued', 'working', 'done', 'failed', 'duplicate', 'left-aside'));
alter table import_batches drop column duplicates;
drop table pack_links;
alter table packs drop column cover_id;
drop table pack_documents;
`;
