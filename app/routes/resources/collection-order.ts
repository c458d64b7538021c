import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { listCollections, orderCollected } from '~server/services/collections.server';
import type { Route } from './+types/collection-order';

/** PUT: the order of the loops of one's own collection, as `loopId`, several times. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = idParam(params.collectionId);
  onlyMethods(request, 'PUT');
  const own = (await listCollections(person.id)).some((each) => each.id === id && each.personId === person.id);
  if (!own) return problem(403, 'A collection is its own person’s to change.');
  await orderCollected(
    id,
    (await readFormData(request)).getAll('loopId').map((each) => idParam(String(each))),
  );
  return { ok: true };
}
