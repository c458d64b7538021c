/** Frozen history: where a wandering player's beats fall, how a loop is handled, and what a clip does to its loop. */
export const up = /* sql */ `
alter table loops add column beat_frames int[] not null default '{}';
alter table loops add column handling jsonb not null default '{}';
alter table clips add column treatment jsonb not null default '{}';
`;

export const down = /* sql */ `
alter table clips drop column treatment;
alter table loops drop column handling;
alter table loops drop column beat_frames;
`;
