import type { Outside } from '~core/search/outside';

/** Who asks, in which room. */
interface Asker {
  readonly personId: number;
  readonly projectId: number | null;
}

const collectedInTreeSql = /* sql */ `
  with recursive inside as (
    select id from collections where id = $1::int and (not is_private or person_id = $2)
    union select c.id from collections c join inside i on c.parent_id = i.id where c.archived_at is null and (not c.is_private or c.person_id = $2))
  select loop_id as id from collection_loops where collection_id in (select id from inside)`;

/** The query for the ids of what an index does not hold. */
export function outsideIdsSql(
  outside: Outside,
  { personId, projectId }: Asker,
): { readonly sql: string; readonly bind: readonly unknown[] } {
  switch (outside.kind) {
    case 'favourites':
      return { sql: 'select loop_id as id from favourites where person_id = $1', bind: [personId] };
    case 'used':
      return { sql: 'select distinct loop_id as id from clips where project_id = $1::int', bind: [projectId] };
    case 'rated':
      return outside.stars > 0
        ? { sql: 'select loop_id as id from ratings where person_id = $1 and stars >= $2::int', bind: [personId, outside.stars] }
        : {
            sql: 'select id from loops l where archived_at is null and not exists (select 1 from ratings r where r.loop_id = l.id and r.person_id = $1 and r.stars is not null)',
            bind: [personId],
          };
    case 'tag':
      return {
        sql: 'select lt.loop_id as id from loop_tags lt join tags t on t.id = lt.tag_id where lower(t.name::text) = lower($1)',
        bind: [outside.name],
      };
    case 'people':
      return { sql: 'select id from people where name ilike $1', bind: [`${outside.name.replace(/[%_\\]/g, '\\$&')}%`] };
    case 'collection':
      return { sql: collectedInTreeSql, bind: [outside.id, personId] };
    case 'linked':
      return { sql: 'select loop_id as id from pack_links where pack_id = $1', bind: [outside.packId] };
  }
}

/** When a person heard each loop last. */
export const heardAtSql = /* sql */ `select loop_id as id, extract(epoch from max(at))::float8 * 1000 as "atMs" from heard where person_id = $1 group by loop_id`;
