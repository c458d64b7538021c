import { fitDefaultsForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { knownLoop, onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { setFitDefaults } from '~server/services/fit-defaults.server';
import type { Route } from './+types/loop-fit-defaults';

/** PUT: how the loop is always fitted, for everybody; what is left out is chosen from its facts. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = await knownLoop(idParam(params.loopId));
  onlyMethods(request, 'PUT');
  const read = await readForm(fitDefaultsForm, await readFormData(request));
  if (!read.ok) return problem(400, 'A loop cannot be fitted like that.', read.errors);
  await setFitDefaults(id, read.values, person.id);
  return { ok: true };
}
