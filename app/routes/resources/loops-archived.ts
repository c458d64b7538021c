import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { archiveLoops, loopsExist, mayArchive } from '~server/services/loops.server';
import type { Route } from './+types/loops-archived';

/** PUT: the loops named by `loopId` are archived; DELETE: brought back. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    isArchived = onlyMethods(request, 'PUT', 'DELETE') === 'PUT',
    ids = (await readFormData(request)).getAll('loopId').map((id) => idParam(String(id)));
  if (ids.length === 0) return problem(400, 'No loop was named.');
  if (!(await loopsExist(ids))) return problem(404, 'That loop is no longer there.');
  if (!(await mayArchive(ids, person))) return problem(403, 'Only a keeper can archive what others brought in.');
  await archiveLoops(ids, isArchived, person.id);
  return { ok: true };
}
