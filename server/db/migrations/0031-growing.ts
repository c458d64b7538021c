/** Frozen history: a folder in which something was still being written is looked into again, watched or not. */
export const up = /* sql */ `
alter table watched_folders add growing int not null default 0;
`;

export const down = /* sql */ `
alter table watched_folders drop column growing;
`;
