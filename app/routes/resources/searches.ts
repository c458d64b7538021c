import { readForm, searchForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepSearch, listSearches, recentSearches } from '~server/services/searches.server';
import type { Route } from './+types/searches';

/** Kept searches, and what was looked for last. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    [searches, recent] = await Promise.all([listSearches(person.id), recentSearches(person.id)]);
  return { searches, recent };
}

/** POST: keeps a search under a name. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const read = await readForm(searchForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'That search cannot be kept.', read.errors);
  return { id: await keepSearch(person.id, read.values.name, read.values.address) };
}
