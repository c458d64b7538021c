import { collectionForm, readForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { listCollections, makeCollection } from '~server/services/collections.server';
import type { Route } from './+types/collections';

/** Collections that who asks may see. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return { collections: await listCollections(person.id) };
}

/** POST: makes one, by hand or by a rule. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const read = await readForm(collectionForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'That collection cannot be made.', read.errors);
  const { name, rule, parentId } = read.values,
    made = await makeCollection(person.id, name, { rule: rule || null, parentId: parentId ?? null });
  return typeof made === 'string' ? problem(400, made) : made;
}
