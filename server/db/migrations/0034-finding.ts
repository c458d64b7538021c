/**
 * Frozen history: what finding goes by. A profile of each loop for fit and likeness; a feed of what changed, by which indexes in memory keep up;
 * ratings and notes; searches that are kept; collections by rule, within each other, of one's own.
 */
export const up = /* sql */ `
alter table loops add profile bytea;

create table loop_feed (
  seq bigint generated always as identity primary key,
  loop_id int not null,
  at timestamptz not null default now()
);
create index loop_feed_at on loop_feed (at);
create function feed_changed_loops() returns trigger language plpgsql as $$
begin
  insert into loop_feed (loop_id) select id from changed;
  return null;
end $$;
create trigger loops_fed_new after insert on loops referencing new table as changed for each statement execute function feed_changed_loops();
create trigger loops_fed after update on loops referencing new table as changed for each statement execute function feed_changed_loops();
create trigger loops_fed_gone after delete on loops referencing old table as changed for each statement execute function feed_changed_loops();
create function feed_loops_of_packs() returns trigger language plpgsql as $$
begin
  insert into loop_feed (loop_id) select l.id from changed c join was w on w.id = c.id join loops l on l.pack_id = c.id
    where (c.name, c.vendor, c.licence) is distinct from (w.name, w.vendor, w.licence);
  return null;
end $$;
create trigger packs_fed after update on packs referencing new table as changed old table as was for each statement execute function feed_loops_of_packs();
create function feed_loops_of_sets() returns trigger language plpgsql as $$
begin
  insert into loop_feed (loop_id) select l.id from changed c join loops l on l.set_id = c.id;
  return null;
end $$;
create trigger sets_fed after update on sets referencing new table as changed for each statement execute function feed_loops_of_sets();

create table ratings (
  person_id int not null references people on delete cascade,
  loop_id int not null references loops on delete cascade,
  stars smallint check (stars between 1 and 5),
  note text not null default '' check (length(note) <= 500),
  changed_at timestamptz not null default now(),
  primary key (person_id, loop_id)
);
create index ratings_loop on ratings (loop_id);

create table kept_searches (
  id int generated always as identity primary key,
  person_id int not null references people on delete cascade,
  name text not null check (length(name) between 1 and 120),
  address text not null check (length(address) <= 2000),
  is_shared boolean not null default false,
  is_pinned boolean not null default false,
  made_at timestamptz not null default now()
);
create unique index kept_searches_by_name on kept_searches (person_id, lower(name));
create table recent_searches (
  person_id int not null references people on delete cascade,
  address text not null check (length(address) <= 2000),
  at timestamptz not null default now(),
  primary key (person_id, address)
);

create table asked_sounds (
  id int generated always as identity primary key,
  person_id int not null references people on delete cascade,
  name text not null,
  file_sha256 char(64),
  likeness bytea,
  profile bytea,
  at timestamptz not null default now()
);
create index asked_sounds_file on asked_sounds (file_sha256);

alter table collections add rule text check (length(rule) <= 2000), add parent_id int references collections, add is_private boolean not null default false;
alter table people add fit_weights jsonb not null default '{}';
`;

export const down = /* sql */ `
alter table people drop column fit_weights;
alter table collections drop column is_private, drop column parent_id, drop column rule;
drop table asked_sounds;
drop table recent_searches;
drop table kept_searches;
drop table ratings;
drop trigger sets_fed on sets;
drop function feed_loops_of_sets();
drop trigger packs_fed on packs;
drop function feed_loops_of_packs();
drop trigger loops_fed_gone on loops;
drop trigger loops_fed on loops;
drop trigger loops_fed_new on loops;
drop function feed_changed_loops();
drop table loop_feed;
alter table loops drop column profile;
`;
