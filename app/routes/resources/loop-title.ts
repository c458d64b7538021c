import { readForm, titleForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { renameLoop } from '~server/services/loops.server';
import type { Route } from './+types/loop-title';

/** PUT: calls a loop otherwise; answers with what it was called. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'PUT');
  const read = await readForm(titleForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'It cannot be called that.', read.errors);
  const before = await renameLoop(idParam(params.loopId), read.values.title, person.id);
  return before === null ? problem(404, 'That loop is no longer there.') : { before };
}
