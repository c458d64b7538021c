import type { Handling } from '~core/arrangement/treatment';
import { Loop } from '../db/models/library';
import { announce } from '../http/events.server';
import { recordActivity } from './people.server';

/** Says how a loop is always fitted, for everybody; what is left out of `handling` is chosen from its facts again. */
export async function setHandling(loopId: number, handling: Handling, personId: number): Promise<void> {
  const [count] = await Loop.update({ handling }, { where: { id: loopId } });
  if (count === 0) return;
  await recordActivity(personId, 'chose how to fit', 'loop', loopId, { ...handling });
  await announce({ kind: 'library', id: loopId });
}
