/** Frozen history: the licences under which that stands of which a loop was made here; null for one that came from outside. */
export const up = /* sql */ `
alter table loops add column made_under text;
`;

export const down = /* sql */ `
alter table loops drop column made_under;
`;
