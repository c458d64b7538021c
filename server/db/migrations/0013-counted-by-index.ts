/** Frozen history: what is counted of people, packs and doubts is counted in indexes, without reading the loops. */
export const up = /* sql */ `
drop index loops_added_by_idx;
create index loops_added_by_idx on loops (added_by) where archived_at is null;
drop index loops_pack_id_idx;
create index loops_of_pack_idx on loops (pack_id, family, kind, media) where archived_at is null;
create index loops_heard_of_pack_idx on loops (pack_id, id) where archived_at is null and media = 'audio';
`;

export const down = /* sql */ `
drop index loops_heard_of_pack_idx, loops_of_pack_idx, loops_added_by_idx;
create index loops_pack_id_idx on loops (pack_id);
create index loops_added_by_idx on loops (added_by);
`;
