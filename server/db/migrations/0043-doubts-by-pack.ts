/** Frozen history: doubts are put in order and counted out of an index that knows their packs, without a look at the loops themselves. */
export const up = /* sql */ `
drop index loops_tempo_confidence_idx, loops_key_confidence_idx, loops_instrument_confidence_idx, loops_kind_confidence_idx;
create index loops_tempo_doubt on loops (tempo_confidence, id) include (pack_id) where archived_at is null;
create index loops_key_doubt on loops (key_confidence, id) include (pack_id) where archived_at is null;
create index loops_instrument_doubt on loops (instrument_confidence, id) include (pack_id) where archived_at is null;
create index loops_kind_doubt on loops (kind_confidence, id) include (pack_id) where archived_at is null;
`;

export const down = /* sql */ `
drop index loops_tempo_doubt, loops_key_doubt, loops_instrument_doubt, loops_kind_doubt;
create index on loops (tempo_confidence) where archived_at is null;
create index on loops (key_confidence) where archived_at is null;
create index on loops (instrument_confidence) where archived_at is null;
create index on loops (kind_confidence) where archived_at is null;
`;
