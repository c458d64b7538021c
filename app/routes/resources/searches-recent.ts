import { readFormData } from '~server/http/input.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { rememberSearch } from '~server/services/searches.server';
import type { Route } from './+types/searches-recent';

/** POST: what was looked for, for going back to it. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  await rememberSearch(person.id, String((await readFormData(request)).get('address') ?? ''));
  return { ok: true };
}
