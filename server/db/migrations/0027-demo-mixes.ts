/** Frozen history: sixteen bars that a pack is judged by. */
export const up = /* sql */ `
create table pack_demos (
  pack_id int primary key references packs on delete cascade,
  state text not null default 'queued' check (state in ('queued', 'done', 'failed')),
  -- What it was made of: made anew when that is something else.

  plan_hash char(64),
  layers jsonb not null default '[]',
  tempo_bpm double precision,
  bars int,
  overview bytea,
  length_seconds double precision,
  file_sha256 char(64),
  message text,
  made_at timestamptz not null default now()
);
create index pack_demos_file on pack_demos (file_sha256);
`;

export const down = /* sql */ `
drop table pack_demos;
`;
