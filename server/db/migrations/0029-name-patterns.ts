/** Frozen history: how the names of a pack are read, as it was learnt or as a person said it. */
export const up = /* sql */ `
create table name_patterns (
  pack_id int not null references packs on delete cascade,
  signature text not null check (length(signature) <= 20),
  roles text[] not null,
  person_id int references people,
  made_at timestamptz not null default now(),
  primary key (pack_id, signature)
);
create index packs_vendor on packs (lower(vendor)) where vendor <> '';
`;

export const down = /* sql */ `
drop index packs_vendor;
drop table name_patterns;
`;
