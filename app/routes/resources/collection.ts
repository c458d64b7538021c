import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { changeCollection } from '~server/services/collections.server';
import type { Route } from './+types/collection';

const longestName = 120;

/** Renames a collection, puts it away or brings it back. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = idParam(params.collectionId),
    form = await readFormData(request),
    name = String(form.get('name') ?? '').trim();
  if (request.method !== 'DELETE' && (name === '' || name.length > longestName)) return problem(400, 'Name it, in up to 120 letters.');
  const wrong = await changeCollection(id, person.id, request.method === 'DELETE' ? { isArchived: form.get('restore') !== '1' } : { name });
  return wrong === null ? { ok: true } : problem(400, wrong);
}
