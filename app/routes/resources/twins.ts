import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepApart, mergeTwins, undoTwins } from '~server/services/twins.server';
import type { Route } from './+types/twins';

/** PUT: the pair is decided, with `keptId` that one is kept, without they are two; DELETE: it is open again. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = idParam(params.twinsId);
  if (onlyMethods(request, 'PUT', 'DELETE') === 'DELETE')
    return (await undoTwins(id, person.id)) ? { ok: true } : problem(404, 'There is no such pair.');
  const keptId = (await readFormData(request)).get('keptId'),
    wrong = keptId === null ? await keepApart(id, person.id) : await mergeTwins(id, idParam(String(keptId)), person.id);
  return wrong === null ? { ok: true } : problem(409, wrong);
}
