/** Frozen history: the licences under which that stands of which a loop was made here; null for one that came from outside. */
export const up = /* sql */ `
alter table loops add column made_under text;
create index loops_made_under on loops (pack_id) where made_under is not null;
`;

export const down = /* sql */ `
alter table loops drop column made_under;
`;
