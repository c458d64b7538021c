/** Frozen history: where something may begin that is too soft to be a hit for sure; believed where players play. */
export const up = /* sql */ `
alter table loops add column faint_frames int[] not null default '{}';
`;

export const down = /* sql */ `
alter table loops drop column faint_frames;
`;
