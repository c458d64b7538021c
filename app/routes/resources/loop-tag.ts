import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { knownLoop, onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { setTag } from '~server/services/loops.server';
import type { Route } from './+types/loop-tag';

/** PUT: the loop carries the tag of the address; DELETE: no longer. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = await knownLoop(idParam(params.loopId)),
    tag = params.tag.trim();
  if (!tag || tag.length > 60) return problem(400, 'A tag has 1 to 60 letters.');
  await setTag(id, tag, onlyMethods(request, 'PUT', 'DELETE') === 'PUT', person.id);
  return { ok: true };
}
