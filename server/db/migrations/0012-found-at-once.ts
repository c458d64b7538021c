/**
 * Frozen history: orders that pages follow are indexes; words are found however their accents are written; what is in doubt is found without
 * reading everything.
 */
export const up = /* sql */ `
create index on loops (tempo_bpm desc nulls last, id desc);
create index on loops (length_seconds, id);
create index on loops (tempo_confidence) where archived_at is null;
create index on loops (key_confidence) where archived_at is null;
create index on loops (instrument_confidence) where archived_at is null;
create index on loops (kind_confidence) where archived_at is null;
create index on packs (added_at desc, id desc);
update loops set search_text = regexp_replace(normalize(search_text, nfkd), '[\\u0300-\\u036f]', '', 'g') where search_text <> regexp_replace(normalize(search_text, nfkd), '[\\u0300-\\u036f]', '', 'g');
`;

export const down = /* sql */ `
drop index packs_added_at_id_idx, loops_kind_confidence_idx, loops_instrument_confidence_idx, loops_key_confidence_idx, loops_tempo_confidence_idx, loops_length_seconds_id_idx, loops_tempo_bpm_id_idx1;
`;
