import type { FitDefaults } from '~core/arrangement/fit-settings';
import { Loop } from '../db/models/library';
import { announceLoops } from '../events/announce.server';
import { recordActivity } from './people.server';

/** Says how a loop is always fitted, for everybody; what is left out of `fitDefaults` is chosen from its facts again. */
export async function setFitDefaults(loopId: number, fitDefaults: FitDefaults, personId: number): Promise<void> {
  const [count] = await Loop.update({ fitDefaults: fitDefaults }, { where: { id: loopId } });
  if (count === 0) return;
  await recordActivity(personId, 'chose how to fit', 'loop', loopId, { ...fitDefaults });
  await announceLoops([loopId]);
}
