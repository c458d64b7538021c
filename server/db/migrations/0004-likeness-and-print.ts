/** Frozen history: what sounds alike, and what is the same recording, as bytes. */
export const up = /* sql */ `
alter table loops add column likeness bytea;
alter table loops add column print bytea;
`;

export const down = /* sql */ `
alter table loops drop column print;
alter table loops drop column likeness;
`;
