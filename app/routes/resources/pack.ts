import { packForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requireKeeper, requirePersonForData } from '~server/http/session.server';
import { deletePackForGood } from '~server/services/delete-pack.server';
import { changePack } from '~server/services/pack-page.server';
import type { Route } from './+types/pack';

/** PUT: something else is said of a pack; DELETE: an archived one goes for good. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    packId = idParam(params.packId);
  if (onlyMethods(request, 'PUT', 'DELETE') === 'DELETE') {
    await requireKeeper(request);
    const deleted = await deletePackForGood(packId, person.id);
    return deleted.ok ? deleted : problem(409, deleted.message);
  }
  const read = await readForm(packForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  const { coverId, ...words } = read.values,
    before = await changePack(packId, coverId === undefined ? words : { ...words, coverId: coverId || null }, person.id);
  return typeof before === 'string' ? problem(400, before) : { before };
}
