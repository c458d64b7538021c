/** Frozen history: loops that are made here, of parts of projects or of other loops, and what they were made of. */
const sources = "'person', 'confirmed', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes', 'set', 'pack'";

export const up = /* sql */ `
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check check (source in (${sources}, 'project'));
alter table packs add column is_own boolean not null default false;
create table makings (
  id int generated always as identity primary key,
  person_id int not null references people,
  pack_id int not null references packs on delete cascade,
  state text not null default 'queued' check (state in ('queued', 'working', 'done', 'failed')),
  message text,
  sheet jsonb not null,
  how jsonb not null,
  file_sha256 char(64),
  loop_id int references loops on delete cascade,
  made_at timestamptz not null default now()
);
create index on makings (loop_id);
create index on makings (person_id, id desc);
create table making_sources (
  making_id int not null references makings on delete cascade,
  loop_id int not null references loops on delete cascade,
  primary key (making_id, loop_id)
);
create index on making_sources (loop_id);
`;

export const down = /* sql */ `
drop table making_sources;
drop table makings;
alter table packs drop column is_own;
delete from facts where source = 'project';
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check check (source in (${sources}));
`;
