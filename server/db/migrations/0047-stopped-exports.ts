/** Frozen history: an export can be stopped by hand. */
export const up = /* sql */ `
alter table exports drop constraint exports_state_check;
alter table exports add constraint exports_state_check check (state in ('queued', 'working', 'done', 'failed', 'stopped'));
`;

export const down = /* sql */ `
update exports set state = 'failed' where state = 'stopped';
alter table exports drop constraint exports_state_check;
alter table exports add constraint exports_state_check check (state in ('queued', 'working', 'done', 'failed'));
`;
