import { ratingForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { knownLoop, onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { rate } from '~server/services/ratings.server';
import type { Route } from './+types/loop-rating';

/** PUT: stars, a note or both, of the person who asks. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = await knownLoop(idParam(params.loopId));
  onlyMethods(request, 'PUT');
  const read = await readForm(ratingForm, await readFormData(request));
  if (!read.ok) return problem(400, 'It cannot be rated like that.', read.errors);
  await rate(person.id, id, read.values);
  return { ok: true };
}
