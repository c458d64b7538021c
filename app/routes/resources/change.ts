import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { undoChange } from '~server/services/changes/changes.server';
import type { Route } from './+types/change';

/** DELETE: takes a change back, all of it. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'DELETE');
  const wrong = await undoChange(idParam(params.changeId), person);
  return wrong === null ? { ok: true } : problem(409, wrong);
}
