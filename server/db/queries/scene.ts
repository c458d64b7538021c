/** What fit goes by of loops that sound in a project. */
export const soundingLoopsSql = /* sql */ `
  select l.id, l.set_id as "setId", l.pack_id as "packId", l.family, l.instrument, l.pitched, l.kind, l.tempo_bpm as "tempoBpm", l.key_tonic as "keyTonic", l.key_mode as "keyMode", l.beats, l.bars, l.meter,
    l.loudness_lufs as "loudnessLufs", l.length_seconds as "lengthSeconds", l.profile from loops l where l.id = any($1::int[])`;

export const fitWeightsSql = /* sql */ `select fit_weights as weights from people where id = $1`;
export const keepFitWeightsSql = /* sql */ `update people set fit_weights = $2 where id = $1`;
