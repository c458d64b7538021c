import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { archivePack, mayArchivePack, packNamed } from '~server/services/packs.server';
import type { Route } from './+types/pack-archived';

/** PUT: a pack is archived with its loops; DELETE: both are brought back. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    isArchived = onlyMethods(request, 'PUT', 'DELETE') === 'PUT',
    id = idParam(params.packId);
  if (!(await packNamed(id))) return problem(404, 'There is no such pack.');
  if (!(await mayArchivePack(id, person))) return problem(403, 'Only a keeper can archive what others brought in.');
  await archivePack(id, isArchived, person.id);
  return { ok: true };
}
