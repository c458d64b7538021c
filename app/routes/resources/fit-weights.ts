import { fitWeightsForm, readForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepFitWeights } from '~server/services/fit-marks.server';
import type { Route } from './+types/fit-weights';

/** PUT: how heavy each part of fit is for who asks. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'PUT');
  const read = await readForm(fitWeightsForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Each part weighs from 0 to 2.', read.errors);
  await keepFitWeights(person.id, read.values);
  return { ok: true };
}
