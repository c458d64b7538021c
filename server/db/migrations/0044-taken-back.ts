/**
 * Frozen history: what is brought back is what went with it. A pack and the loops that went with it bear one time, and an import remembers when it was
 * taken back; before, loops that somebody had archived one by one came back too.
 */
export const up = /* sql */ `
alter table import_batches add column taken_back_at timestamptz;
update packs p set archived_at = went.at from (select pack_id, max(archived_at) as at from loops group by pack_id) went
  where went.pack_id = p.id and p.archived_at is not null and went.at < p.archived_at and went.at > p.archived_at - interval '10 seconds';
`;

export const down = /* sql */ `
alter table import_batches drop column taken_back_at;
`;
