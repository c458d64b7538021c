/** Loops of a pack that can be compared. */
export const comparableOfPackSql = /* sql */ `
  select id, length_seconds as "lengthSeconds", fingerprint, overview from loops where pack_id = $1 and archived_at is null and fingerprint is not null and media = 'audio'`;

/** Loops as long as one, within what encoders add, that have not been held against it. */
export const asLongSql = /* sql */ `
  select l.id, l.length_seconds as "lengthSeconds", l.fingerprint, l.overview from loops l
  where l.archived_at is null and l.fingerprint is not null and l.media = 'audio' and l.id <> $1
    and l.length_seconds between $2::float8 - greatest(0.15, $2::float8 * 0.01) and $2::float8 + greatest(0.15, $2::float8 * 0.01)
    and not exists (select 1 from sound_twins t where t.first_id = least(l.id, $1) and t.second_id = greatest(l.id, $1))
  order by l.id limit 20000`;

export const addTwinsSql = /* sql */ `insert into sound_twins (first_id, second_id, differing) values (least($1::int, $2::int), greatest($1::int, $2::int), $3) on conflict do nothing`;

const openWhere = `t.state = 'open' and a.archived_at is null and b.archived_at is null`;
const twinsJoin = `sound_twins t join loops a on a.id = t.first_id join loops b on b.id = t.second_id`;
export const openTwinsSql = /* sql */ `select t.id, t.first_id as "firstId", t.second_id as "secondId", t.differing from ${twinsJoin} where ${openWhere} order by t.differing, t.id limit $1`;
export const countTwinsSql = /* sql */ `select count(*)::int as count from ${twinsJoin} where ${openWhere}`;
export const lockTwinsSql = /* sql */ `select id, first_id as "firstId", second_id as "secondId", state, undo from sound_twins where id = $1 for update`;
export const decideTwinsSql = /* sql */ `update sound_twins set state = $2, decided_by = $3, decided_at = now(), undo = $4 where id = $1`;

/** What the other has and the kept one lacks is given to it; told, so that it can be taken back. */
export const giveTagsSql = /* sql */ `
  insert into loop_tags (loop_id, tag_id, person_id) select $1, tag_id, person_id from loop_tags where loop_id = $2
  on conflict do nothing returning tag_id as "tagId"`;
export const giveFavouritesSql = /* sql */ `
  insert into favourites (person_id, loop_id) select person_id, $1 from favourites where loop_id = $2
  on conflict do nothing returning person_id as "personId"`;
/** Stars and a note go with the time that they were given, by which they are known when they are taken back. */
export const giveRatingsSql = /* sql */ `
  insert into ratings (person_id, loop_id, stars, note, changed_at) select person_id, $1, stars, note, changed_at from ratings where loop_id = $2
  on conflict do nothing returning person_id as "personId"`;
/** In a collection the kept one lies where the other lay. */
export const givePlacesSql = /* sql */ `
  insert into collection_loops (collection_id, loop_id, position) select collection_id, $1, position from collection_loops where loop_id = $2
  on conflict do nothing returning collection_id as "collectionId"`;

/** What was given is taken back ($1 the kept one, $2 the other); what people have put in its place since stays theirs. */
export const takeTagsSql = /* sql */ `
  delete from loop_tags k using loop_tags o
  where k.loop_id = $1 and o.loop_id = $2 and o.tag_id = k.tag_id and o.person_id = k.person_id and k.tag_id = any($3::int[])`;
export const takeFavouritesSql = /* sql */ `delete from favourites where loop_id = $1 and loop_id <> $2 and person_id = any($3::int[])`;
export const takeRatingsSql = /* sql */ `
  delete from ratings k using ratings o
  where k.loop_id = $1 and o.loop_id = $2 and o.person_id = k.person_id and o.changed_at = k.changed_at and k.person_id = any($3::int[])`;
export const takePlacesSql = /* sql */ `delete from collection_loops where loop_id = $1 and loop_id <> $2 and collection_id = any($3::int[])`;
