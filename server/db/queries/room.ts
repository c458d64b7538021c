export const roomProjectSql = /* sql */ `select tempo_bpm as "tempoBpm", key_tonic as "keyTonic", key_mode as "keyMode" from projects where id = $1 and archived_at is null`;
