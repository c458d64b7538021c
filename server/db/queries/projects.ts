export const projectsSql = /* sql */ `select p.id, p.name, p.tempo_bpm as "tempoBpm", p.key_tonic as "keyTonic", p.key_mode as "keyMode", p.key_church as "keyChurch", p.meter, a.name::text as "createdBy", p.changed_at as "changedAt",
    (select count(*)::int from tracks t where t.project_id = p.id) as tracks, (select count(*)::int from clips c where c.project_id = p.id) as clips, coalesce((select max(start_beat + length_beats) from clips c join tracks t on t.project_id = c.project_id and t.id = c.track_id where c.project_id = p.id and not t.set_aside), 0) as "endBeat"
    from projects p join people a on a.id = p.created_by where (p.archived_at is not null) = $1 order by p.changed_at desc`;

/** Which of these loops are there, archived or not. */
export const loopsThereSql = /* sql */ `select id from loops where id = any($1::int[])`;
