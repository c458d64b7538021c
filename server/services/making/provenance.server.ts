import type { Made } from '~contracts/making';
import { selectRows } from '../../db/connection';
import { MakingRow } from '../../db/models/makings';
import { Person } from '../../db/models/people';
import { sourcesOfMadeSql } from '../../db/queries/makings';
import { originsOf } from '../exchange/search.server';

export interface MadeSource {
  readonly loopId: number;
  readonly title: string;
  readonly packName: string;
  readonly licence: string;
}

/** What made loops were made of, by loop, down to what was not made here; loops that were not made here have none. */
export async function sourcesOfMade(loopIds: readonly number[]): Promise<ReadonlyMap<number, readonly MadeSource[]>> {
  const rows = await selectRows<MadeSource & { madeId: number }>(sourcesOfMadeSql, [loopIds]),
    origins = await originsOf([...new Set(rows.map(({ loopId }) => loopId))]),
    found = new Map<number, MadeSource[]>();
  for (const { madeId, loopId, title, packName, licence } of rows)
    found.set(madeId, [...(found.get(madeId) ?? []), { loopId, title, packName, licence: origins.get(loopId)?.licence || licence }]);
  return found;
}

/** How a loop was made; null for one that came from outside. */
export async function findMade(loopId: number): Promise<Made | null> {
  const row = await MakingRow.findOne({ where: { loopId, state: 'done' } });
  if (!row) return null;
  const [person, sources] = await Promise.all([Person.findByPk(row.personId), sourcesOfMade([loopId])]);
  return { how: row.how, person: person?.name ?? '', at: row.madeAt.toISOString(), sources: sources.get(loopId) ?? [] };
}
