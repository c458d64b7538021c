import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { changeCollection } from '~server/services/collections.server';
import type { Route } from './+types/collection';

const longestName = 120;

/** PUT: renames a collection, keeps it to oneself or shows it, puts it into another (`parentId`, 0 for none); DELETE: puts it away, or brings it back. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = idParam(params.collectionId),
    method = onlyMethods(request, 'PUT', 'DELETE'),
    form = await readFormData(request),
    said = form.get('name'),
    name = said === null ? null : String(said).trim(),
    parent = form.get('parentId'),
    isPrivate = form.get('isPrivate');
  if (method === 'PUT' && name !== null && (name === '' || name.length > longestName))
    return problem(400, 'Name it, in up to 120 letters.');
  if (method === 'PUT' && name === null && parent === null && isPrivate === null) return problem(400, 'Nothing is said of it.');
  const wrong = await changeCollection(
    id,
    person.id,
    method === 'DELETE'
      ? { isArchived: form.get('restore') !== '1' }
      : {
          name,
          parentId: parent === null ? null : parent === '0' ? 0 : idParam(String(parent)),
          isPrivate: isPrivate === null ? null : isPrivate === '1',
        },
  );
  return wrong === null ? { ok: true } : problem(400, wrong);
}
