export const stateChordsSql = /* sql */ `update loops set stated_chords = $2::jsonb where id = $1 returning id`;
export const statedChordsSql = /* sql */ `select stated_chords as stated, beats, bars, meter from loops where id = $1`;
