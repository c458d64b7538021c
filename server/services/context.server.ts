import { contextEvidence } from '~core/analysis/evidence/context';
import { selectRows } from '../db/connection';
import { loopsOfPackSql } from '../db/queries/context';
import { announceLibrary } from '../events/announce.server';
import { settleNames } from './names.server';
import { activeEvidence, replaceContext } from './facts.server';

/** Lets the loops of a pack speak for each other; what they said before is superseded. Run when all of a pack has been heard. */
export async function settleContext(packId: number): Promise<void> {
  const loops = await selectRows<{ id: number; setId: number | null }>(loopsOfPackSql, [packId]);
  const evidence = await activeEvidence(loops.map(({ id }) => id));
  for (const [id, anew] of await activeEvidence(await settleNames(packId, evidence))) evidence.set(id, anew);
  const found = contextEvidence(
    loops.map(({ id, setId }) => ({ id, set: setId === null ? null : String(setId), evidence: evidence.get(id) ?? [] })),
  );
  for (const [loopId, list] of found) {
    const before = (evidence.get(loopId) ?? []).filter(({ source }) => source === 'set' || source === 'pack');
    if (JSON.stringify(before.map(essence)) !== JSON.stringify(list.map(essence))) await replaceContext(loopId, list);
  }
  await announceLibrary();
}

const essence = ({ attribute, source, candidates }: { attribute: string; source: string; candidates: readonly unknown[] }) => ({
  attribute,
  source,
  first: candidates[0],
});
