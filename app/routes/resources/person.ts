import { personChangeForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requireKeeper } from '~server/http/session.server';
import { changePerson } from '~server/services/people.server';
import type { Route } from './+types/person';

/** For keepers. PUT: what somebody may do (`role`), a new `password`, or with `isHere` the door is open again; DELETE: they can no longer sign in. */
export async function action({ request, params }: Route.ActionArgs) {
  const keeper = await requireKeeper(request),
    id = idParam(params.personId),
    isGone = onlyMethods(request, 'PUT', 'DELETE') === 'DELETE',
    read = isGone ? ({ ok: true, values: { isHere: false } } as const) : await readForm(personChangeForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  const wrong = await changePerson(id, read.values, keeper.id);
  return wrong === null ? { ok: true } : problem(409, wrong);
}
