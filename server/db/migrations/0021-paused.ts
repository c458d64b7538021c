/** Frozen history: an import may be held, and goes on later. */
export const up = /* sql */ `
alter table import_batches drop constraint if exists import_batches_state_check;
alter table import_batches add constraint import_batches_state_check check (state in ('receiving', 'queued', 'unpacking', 'analysing', 'paused', 'done', 'cancelled', 'failed'));
`;

export const down = /* sql */ `
update import_batches set state = 'cancelled' where state = 'paused';
alter table import_batches drop constraint if exists import_batches_state_check;
alter table import_batches add constraint import_batches_state_check check (state in ('receiving', 'queued', 'unpacking', 'analysing', 'done', 'cancelled', 'failed'));
`;
