/** Frozen history: what kind of music a loop is for; several may stand beside each other. */
export const up = /* sql */ `
alter table loops add column genres text[] not null default '{}';
create index on loops using gin (genres);
`;

export const down = /* sql */ `
delete from facts where attribute = 'genre';
alter table loops drop column genres;
`;
