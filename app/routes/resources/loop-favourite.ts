import { idParam } from '~server/http/input.server';
import { knownLoop, onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { setFavourite } from '~server/services/loops.server';
import type { Route } from './+types/loop-favourite';

/** PUT: a favourite of the person who asks; DELETE: no longer. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = await knownLoop(idParam(params.loopId));
  await setFavourite(person.id, id, onlyMethods(request, 'PUT', 'DELETE') === 'PUT');
  return { ok: true };
}
