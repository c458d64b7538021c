import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { changeSearch, forgetSearch } from '~server/services/searches.server';
import type { Route } from './+types/search';

const flag = (value: FormDataEntryValue | null): boolean | null => (value === null ? null : value === '1');

/** PUT: renames, shares or pins one's own search; DELETE: forgets it. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = idParam(params.searchId);
  if (onlyMethods(request, 'PUT', 'DELETE') === 'DELETE') {
    const was = await forgetSearch(id, person.id);
    return was ?? problem(404, 'There is no such search of yours.');
  }
  const form = await readFormData(request),
    name = form.get('name');
  if (name !== null && (String(name).trim() === '' || String(name).length > 120)) return problem(400, 'Name it, in up to 120 letters.');
  const wrong = await changeSearch(id, person.id, {
    name: name === null ? null : String(name).trim(),
    isShared: flag(form.get('isShared')),
    isPinned: flag(form.get('isPinned')),
  });
  return wrong === null ? { ok: true } : problem(400, wrong);
}
