import { packForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { changePack } from '~server/services/pack-page.server';
import type { Route } from './+types/pack';

/** Says something else of a pack. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    read = await readForm(packForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  const { coverId, ...words } = read.values,
    before = await changePack(idParam(params.packId), { ...words, coverId: coverId || null }, person.id);
  return typeof before === 'string' ? problem(400, before) : { before };
}
