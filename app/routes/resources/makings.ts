import { readMakings } from '~server/forms/making-form';
import { idParam, readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { makingsOf, ownPacks, requestMakings, sameNames } from '~server/services/making/ask.server';
import type { Route } from './+types/makings';

/** What who asks has had made, the packs that take it, and for `packId` and `name` which loops are called the same there. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    { searchParams } = new URL(request.url),
    ids = searchParams.getAll('id').map(idParam),
    packId = searchParams.get('packId'),
    names = searchParams.getAll('name').slice(0, 64);
  return {
    makings: await makingsOf(person.id, ids.length > 0 ? ids : undefined),
    packs: await ownPacks(),
    sameNames: packId && names.length > 0 ? await sameNames(idParam(packId), names) : [],
  };
}

/** POST: makes loops, all or none. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const read = await readMakings(await readJson(request));
  if (!read.ok) return problem(400, read.message);
  const made = await requestMakings(read.asked, person.id);
  return typeof made === 'string' ? problem(409, made) : { ids: made };
}
