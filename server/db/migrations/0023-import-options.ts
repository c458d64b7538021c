/** Frozen history: what is said of a whole import before it begins. */
export const up = /* sql */ `
alter table import_batches add column tags text[] not null default '{}', add column leave_out text[] not null default '{}';
`;

export const down = /* sql */ `
alter table import_batches drop column tags, drop column leave_out;
`;
