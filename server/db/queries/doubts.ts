import { doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';

const doubtful = (attribute: DoubtAttribute): string => `archived_at is null and ${attribute}_confidence < ${sureFrom}`;

/**
 * What a doubt's settling is worth: how doubtful it is, times how much its pack is used (clips and favourites), times whether somebody waits for
 * it: who asks has just brought it in.
 */
const packWeights = `select p.id, (1 + ln(1 + coalesce(c.uses, 0) + 0.5 * coalesce(f.kept, 0))) * case when p.added_by = $1 and p.added_at > now() - interval '14 days' then 1.5 else 1 end as weight
  from packs p
  left join (select l.pack_id, count(*) as uses from clips c join loops l on l.id = c.loop_id group by 1) c on c.pack_id = p.id
  left join (select l.pack_id, count(*) as kept from favourites f join loops l on l.id = f.loop_id group by 1) f on f.pack_id = p.id`;

/**
 * A page of doubts of some kinds, the most worth settling first. `$1` who asks, `$2` and `$3` limit and offset, `$4` a pack or null. Most packs weigh one:
 * of theirs each kind's index gives the first ones, and only of the packs that weigh more all doubts are read.
 */
export const doubtsSql = (kinds: readonly DoubtAttribute[]): string =>
  `with heavy as (select id, weight from (${packWeights}) weights where weight <> 1)
   select id, attribute from (${kinds
     .map((attribute) => {
       const columns = `l.id, '${attribute}' as attribute`,
         where = `l.archived_at is null and l.${attribute}_confidence < ${sureFrom} and ($4::int is null or l.pack_id = $4)`;
       return `(select ${columns}, 1 - l.${attribute}_confidence as worth from loops l where ${where} and not exists (select 1 from heavy h where h.id = l.pack_id) order by l.${attribute}_confidence, l.id limit $2::int + $3::int)
         union all select ${columns}, (1 - l.${attribute}_confidence) * h.weight from heavy h join loops l on l.pack_id = h.id where ${where}`;
     })
     .join(' union all ')}) found order by worth desc, id, attribute limit $2 offset $3`;

/** How many facts of each kind are in doubt, a column each; in a pack, or with null in all. */
export const doubtCountsSql = `select ${doubtAttributes
  .map(
    (attribute) => `(select count(*)::int from loops where ${doubtful(attribute)} and ($1::int is null or pack_id = $1)) as ${attribute}`,
  )
  .join(', ')}`;

/** Packs in which something is in doubt, with how much of how much, those with most first. */
export const packsInDoubtSql = `
  with open as (select pack_id, count(*)::int as doubts from (${doubtAttributes.map((attribute) => `select pack_id from loops where ${doubtful(attribute)}`).join(' union all ')}) d group by 1 order by 2 desc limit 40)
  select p.id, p.name, o.doubts, (select coalesce(sum(${doubtAttributes.map((attribute) => `case when ${attribute}_confidence is not null then 1 else 0 end`).join(' + ')}), 0)::int from loops where pack_id = p.id and archived_at is null) as facts
  from open o join packs p on p.id = o.pack_id order by o.doubts desc, p.name`;

/** Others of a loop's pack of which the same fact is in doubt, and whether they are of its set. */
export const alikeSql = (attribute: DoubtAttribute): string => `
  select o.id, o.set_id is not null and o.set_id = l.set_id as "isOfSet" from loops l join loops o on o.pack_id = l.pack_id and o.id <> l.id
  where l.id = $1 and o.archived_at is null and o.${attribute}_confidence < ${sureFrom} order by o.id limit 5000`;
