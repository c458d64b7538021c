/** Frozen history: tries to sign in are counted where a hundred at once cannot pass each other. */
export const up = /* sql */ `
create table sign_in_limits (key varchar(255) primary key, points integer not null default 0, expire bigint);
drop table sign_in_failures;
`;

export const down = /* sql */ `
create table sign_in_failures (
  id bigint generated always as identity primary key,
  name citext not null,
  address text not null,
  at timestamptz not null default now()
);
create index on sign_in_failures (name, at);
create index on sign_in_failures (address, at);
drop table sign_in_limits;
`;
