import { licenceSql } from './licence';

/** What of loops goes out with their files, in the order of the ids. */
export const loopsOutSql = /* sql */ `
  select l.id, l.title, l.vendor_path as "vendorPath", p.name as pack, p.vendor, ${licenceSql} as licence, l.file_sha256 as "fileSha", l.file_format as format,
    l.kind, l.instrument, l.tempo_bpm as "tempoBpm", l.beats, l.bars, l.meter, l.key_tonic as "keyTonic", l.key_mode as "keyMode",
    l.genres, l.characters, s.stem as "setStem", l.set_role as "setRole", l.first_bar_seconds as "firstBarSeconds",
    l.length_seconds as "lengthSeconds", l.loudness_lufs as "loudnessLufs",
    (select coalesce(jsonb_agg(t.name order by t.name), '[]') from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = l.id) as tags,
    (select coalesce(jsonb_agg(distinct f.attribute), '[]') from facts f where f.loop_id = l.id and f.source = 'person' and f.superseded_at is null) as words
  from unnest($1::int[]) with ordinality w(id, place) join loops l on l.id = w.id join packs p on p.id = l.pack_id left join sets s on s.id = l.set_id
  order by w.place`;
