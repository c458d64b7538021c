/** Those that were taken away are known still, for the loops that are one. */
export const ownInstrumentsSql = /* sql */ `
  select id, label, sounds_as as "soundsAs", words, archived_at is not null as archived from own_instruments order by lower(label), id`;

export const addInstrumentSql = /* sql */ `
  insert into own_instruments (id, label, sounds_as, words, person_id) values ($1, $2, $3, $4, $5)
  on conflict (id) do update set label = excluded.label, sounds_as = excluded.sounds_as, words = excluded.words, archived_at = null`;

export const archiveInstrumentSql = /* sql */ `update own_instruments set archived_at = now() where id = $1 returning id`;
