/** Frozen history: by which versions each part of a loop's analysis was heard, so that only what has changed since is heard again. */
export const up = /* sql */ `
alter table loops add column heard_by jsonb not null default '{}';
`;

export const down = /* sql */ `
alter table loops drop column heard_by;
`;
