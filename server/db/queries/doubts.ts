import { doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';

const doubtful = (attribute: DoubtAttribute): string => `archived_at is null and ${attribute}_confidence < ${sureFrom}`;

/** The first `$1` doubts of some kinds: each kind's own first ones by its index, then the first of those; nothing else is read. */
export const doubtsSql = (kinds: readonly DoubtAttribute[]): string =>
  `select id, attribute from (${kinds
    .map(
      (attribute) =>
        `(select id, '${attribute}' as attribute, ${attribute}_confidence as confidence from loops where ${doubtful(attribute)} order by confidence, id limit $1)`,
    )
    .join(' union all ')}) doubtful order by confidence, id, attribute limit $1`;

/** How many facts of each kind are in doubt, a column each. */
export const doubtCountsSql = `select ${doubtAttributes
  .map((attribute) => `(select count(*)::int from loops where ${doubtful(attribute)}) as ${attribute}`)
  .join(', ')}`;
