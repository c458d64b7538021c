import { doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';

const doubtful = (attribute: DoubtAttribute): string => `archived_at is null and ${attribute}_confidence < ${sureFrom}`;

/**
 * What a doubt's settling is worth: how doubtful it is, times how much its pack is used (clips and favourites), times whether somebody waits for
 * it: who asks has just brought it in. Packs by what they weigh, the weight of most packs first. `$1` who asks.
 */
export const packWeightsSql = `
  select weight, array_agg(id order by id) as "packIds" from (
    select p.id, ((1 + ln(1 + coalesce(c.uses, 0) + 0.5 * coalesce(f.kept, 0))) * case when p.added_by = $1 and p.added_at > now() - interval '14 days' then 1.5 else 1 end)::float8 as weight
    from packs p
    left join (select l.pack_id, count(*) as uses from clips c join loops l on l.id = c.loop_id group by 1) c on c.pack_id = p.id
    left join (select l.pack_id, count(*) as kept from favourites f join loops l on l.id = f.loop_id group by 1) f on f.pack_id = p.id) weights
  group by weight order by count(*) desc, weight`;

/** Packs that weigh the same. */
export interface PacksOfWeight {
  readonly weight: number;
  readonly packIds: readonly number[];
}

/** So many packs of one weight are read as a whole; of more than that only the first doubts are. */
const fewPacks = 12;

/**
 * A page of doubts of some kinds, the most worth settling first. Where packs weigh the same the index gives the first ones; only of packs that
 * weigh what few do all doubts are read. @param weights of all packs, the weight of most first
 */
export function doubtsSql(
  kinds: readonly DoubtAttribute[],
  weights: readonly PacksOfWeight[],
  limit: number,
  offset: number,
): { sql: string; bind: unknown[] } {
  const bind: unknown[] = [limit, offset, limit + offset],
    bound = (value: unknown, type: string) => `$${bind.push(value)}::${type}`,
    [most, ...others] = weights,
    few = others.filter(({ packIds }) => packIds.length <= fewPacks),
    elsewhere = bound(
      others.flatMap(({ packIds }) => packIds),
      'int[]',
    ),
    classes = [
      { weight: bound(most?.weight ?? 1, 'float8'), isOf: `l.pack_id <> all(${elsewhere})` },
      ...others
        .filter(({ packIds }) => packIds.length > fewPacks)
        .map(({ weight, packIds }) => ({ weight: bound(weight, 'float8'), isOf: `l.pack_id = any(${bound(packIds, 'int[]')})` })),
    ],
    fewIds = bound(
      few.flatMap(({ packIds }) => packIds),
      'int[]',
    ),
    fewWeights = bound(
      few.flatMap(({ weight, packIds }) => packIds.map(() => weight)),
      'float8[]',
    );
  const parts = kinds.flatMap((attribute) => {
    const columns = `l.id, '${attribute}' as attribute`,
      doubt = `(1 - l.${attribute}_confidence)`,
      where = `l.archived_at is null and l.${attribute}_confidence < ${sureFrom}`;
    return [
      ...classes.map(
        ({ weight, isOf }) =>
          `(select ${columns}, ${doubt} * ${weight} as worth from loops l where ${where} and ${isOf} order by l.${attribute}_confidence, l.id limit $3)`,
      ),
      `select ${columns}, ${doubt} * w.weight from unnest(${fewIds}, ${fewWeights}) w(id, weight) join loops l on l.pack_id = w.id where ${where}`,
    ];
  });
  return {
    sql: `select id, attribute from (${parts.join(' union all ')}) found order by worth desc, id, attribute limit $1 offset $2`,
    bind,
  };
}

/** The same of one pack. `$1` and `$2` limit and offset, `$3` the pack. */
export const doubtsOfPackSql = (kinds: readonly DoubtAttribute[]): string =>
  `select id, attribute from (${kinds
    .map(
      (attribute) =>
        `select id, '${attribute}' as attribute, 1 - ${attribute}_confidence as worth from loops where ${doubtful(attribute)} and pack_id = $3`,
    )
    .join(' union all ')}) found order by worth desc, id, attribute limit $1 offset $2`;

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
