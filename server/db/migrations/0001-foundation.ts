/** Frozen history: the first data model. Constraints live here, not only in code. */
export const up = /* sql */ `
create extension if not exists citext;

create table people (
  id int generated always as identity primary key,
  name citext not null unique check (length(name) between 1 and 60),
  password_hash text not null,
  role text not null default 'member' check (role in ('member', 'keeper')),
  created_at timestamptz not null default now(),
  archived_at timestamptz
);
create table sessions (
  token_hash bytea primary key,
  person_id int not null references people on delete cascade,
  project_id int,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create table sign_in_failures (
  id bigint generated always as identity primary key,
  name citext not null,
  address text not null,
  at timestamptz not null default now()
);
create index on sign_in_failures (name, at);
create index on sign_in_failures (address, at);

create table packs (
  id int generated always as identity primary key,
  name text not null check (length(name) between 1 and 200),
  vendor text not null default '',
  licence text not null default '',
  description text not null default '',
  added_by int not null references people,
  added_at timestamptz not null default now(),
  archived_at timestamptz
);
create table sets (
  id int generated always as identity primary key,
  pack_id int not null references packs on delete cascade,
  stem text not null,
  unique (pack_id, stem)
);
create table loops (
  id int generated always as identity primary key,
  pack_id int not null references packs,
  set_id int references sets,
  media text not null check (media in ('audio', 'midi')),
  title text not null check (length(title) between 1 and 300),
  file_name text not null,
  vendor_path text not null,
  file_sha256 char(64) not null,
  file_format text not null,
  sound_sha256 char(64) not null,
  sound_frames int not null check (sound_frames >= 0),
  length_seconds double precision not null check (length_seconds >= 0),
  lead_seconds double precision not null default 0,
  kind text not null check (kind in ('loop', 'one-shot', 'phrase', 'full-mix')),
  tempo_bpm double precision check (tempo_bpm between 20 and 400),
  beats real check (beats > 0),
  bars real check (bars > 0),
  meter text,
  key_tonic smallint check (key_tonic between 0 and 11),
  key_mode text check (key_mode in ('major', 'minor')),
  pitched boolean,
  instrument text,
  family text,
  tempo_confidence real check (tempo_confidence between 0 and 1),
  key_confidence real check (key_confidence between 0 and 1),
  loudness_lufs real,
  peak_dbfs real,
  tuning_cents real,
  overview bytea not null,
  onset_frames int[] not null default '{}',
  chroma real[] not null default '{}',
  analyser_version int not null,
  search_text text not null default '',
  search_vector tsvector not null generated always as (to_tsvector('simple', search_text)) stored,
  added_by int not null references people,
  added_at timestamptz not null default now(),
  archived_at timestamptz,
  check ((key_tonic is null) = (key_mode is null)),
  check (kind in ('loop', 'full-mix') or tempo_bpm is null),
  unique (pack_id, vendor_path)
);
create index on loops using gin (search_vector);
create index on loops (added_at desc, id desc);
create index on loops (title, id);
create index on loops (tempo_bpm, id);
create index on loops (pack_id);
create index on loops (set_id);
create index on loops (file_sha256);

create table facts (
  id bigint generated always as identity primary key,
  loop_id int not null references loops on delete cascade,
  attribute text not null check (attribute in ('kind', 'tempo', 'beats', 'meter', 'key', 'instrument')),
  value jsonb not null,
  confidence real not null check (confidence between 0 and 1),
  source text not null check (source in ('person', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes')),
  alternatives jsonb not null default '[]',
  reason text not null default '',
  analyser_version int not null,
  person_id int references people,
  created_at timestamptz not null default now(),
  superseded_at timestamptz,
  check ((source = 'person') = (person_id is not null))
);
create index on facts (loop_id) where superseded_at is null;

create table tags (
  id int generated always as identity primary key,
  name citext not null unique check (length(name) between 1 and 60)
);
create table loop_tags (
  loop_id int not null references loops on delete cascade,
  tag_id int not null references tags on delete cascade,
  person_id int not null references people,
  primary key (loop_id, tag_id)
);
create table favourites (
  person_id int not null references people on delete cascade,
  loop_id int not null references loops on delete cascade,
  created_at timestamptz not null default now(),
  primary key (person_id, loop_id)
);
create table collections (
  id int generated always as identity primary key,
  name text not null check (length(name) between 1 and 120),
  person_id int not null references people,
  created_at timestamptz not null default now(),
  archived_at timestamptz
);
create table collection_loops (
  collection_id int not null references collections on delete cascade,
  loop_id int not null references loops on delete cascade,
  position int not null,
  primary key (collection_id, loop_id)
);

create table projects (
  id int generated always as identity primary key,
  name text not null check (length(name) between 1 and 120),
  tempo_bpm double precision not null check (tempo_bpm between 30 and 300),
  key_tonic smallint check (key_tonic between 0 and 11),
  key_mode text check (key_mode in ('major', 'minor')),
  meter text not null default '4/4',
  master_gain_db real not null default 0 check (master_gain_db between -60 and 12),
  revision int not null default 0,
  created_by int not null references people,
  created_at timestamptz not null default now(),
  changed_at timestamptz not null default now(),
  archived_at timestamptz,
  check ((key_tonic is null) = (key_mode is null))
);
alter table sessions add foreign key (project_id) references projects on delete set null;
create table sections (
  project_id int not null references projects on delete cascade,
  id text not null,
  name text not null,
  start_beat double precision not null check (start_beat >= 0),
  length_beats double precision not null check (length_beats > 0),
  primary key (project_id, id)
);
create table chords (
  project_id int not null references projects on delete cascade,
  start_beat double precision not null check (start_beat >= 0),
  symbol text not null check (length(symbol) between 1 and 20),
  primary key (project_id, start_beat)
);
create table tracks (
  project_id int not null references projects on delete cascade,
  id text not null,
  position int not null,
  name text not null check (length(name) between 1 and 120),
  colour smallint not null default 0,
  gain_db real not null default 0 check (gain_db between -60 and 12),
  pan real not null default 0 check (pan between -1 and 1),
  muted boolean not null default false,
  soloed boolean not null default false,
  primary key (project_id, id)
);
create table clips (
  project_id int not null,
  id text not null,
  track_id text not null,
  loop_id int not null references loops,
  start_beat double precision not null check (start_beat >= 0),
  length_beats double precision not null check (length_beats > 0),
  offset_beats double precision not null default 0 check (offset_beats >= 0),
  gain_db real not null default 0 check (gain_db between -60 and 12),
  shift_semitones real not null default 0 check (shift_semitones between -24 and 24),
  follow_tempo boolean not null default true,
  follow_key boolean not null default true,
  primary key (project_id, id),
  foreign key (project_id, track_id) references tracks (project_id, id) on delete cascade
);
create index on clips (loop_id);

create table import_batches (
  id int generated always as identity primary key,
  person_id int not null references people,
  pack_id int references packs,
  pack_name text not null,
  vendor text not null default '',
  licence text not null default '',
  description text not null default '',
  state text not null check (state in ('receiving', 'queued', 'unpacking', 'analysing', 'done', 'cancelled', 'failed')),
  message text,
  created_at timestamptz not null default now(),
  finished_at timestamptz
);
create table import_files (
  id bigint generated always as identity primary key,
  batch_id int not null references import_batches on delete cascade,
  path text not null,
  bytes bigint not null default 0,
  file_sha256 char(64),
  state text not null check (state in ('queued', 'working', 'done', 'failed', 'duplicate', 'left-aside')),
  message text,
  loop_id int references loops,
  unique (batch_id, path)
);
create index on import_files (batch_id, state);

create table activity (
  id bigint generated always as identity primary key,
  person_id int not null references people,
  verb text not null,
  subject text not null,
  subject_id int,
  detail jsonb not null default '{}',
  at timestamptz not null default now()
);
create index on activity (at desc);

create table exports (
  id int generated always as identity primary key,
  project_id int not null references projects on delete cascade,
  person_id int not null references people,
  revision int not null,
  bits smallint not null check (bits in (16, 24)),
  rate_hz int not null check (rate_hz in (44100, 48000)),
  state text not null default 'queued' check (state in ('queued', 'working', 'done', 'failed')),
  message text,
  file_sha256 char(64),
  credits text,
  created_at timestamptz not null default now()
);
create table worker_heartbeats (
  worker_id text primary key,
  seen_at timestamptz not null default now()
);
create table settings (
  name text primary key,
  value jsonb not null
);
`;

export const down = /* sql */ `
drop table settings, worker_heartbeats, exports, activity, import_files, import_batches, clips, tracks, chords, sections, collection_loops, collections, favourites, loop_tags, tags, facts, loops, sets, packs, sign_in_failures, sessions, projects, people cascade;
`;
