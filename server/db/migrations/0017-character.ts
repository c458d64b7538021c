/** Frozen history: how a loop sounds, in words; several may stand beside each other. */
export const up = /* sql */ `
alter table loops add column characters text[] not null default '{}';
create index on loops using gin (characters);
`;

export const down = /* sql */ `
delete from facts where attribute = 'character';
alter table loops drop column characters;
`;
