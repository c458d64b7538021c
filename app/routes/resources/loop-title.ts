import { readForm, titleForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { renameLoop } from '~server/services/loops.server';
import type { Route } from './+types/loop-title';

/** PUT: calls a loop otherwise, `instead` of a title that it must still have where one is said; answers with what it was called. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'PUT');
  const read = await readForm(titleForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'It cannot be called that.', read.errors);
  const { title, instead } = read.values,
    done = await renameLoop(idParam(params.loopId), title, person.id, instead);
  if (done === null) return problem(404, 'That loop is no longer there.');
  return typeof done === 'string' ? problem(409, done) : done;
}
