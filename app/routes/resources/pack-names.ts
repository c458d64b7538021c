import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { sayPattern } from '~server/services/names.server';
import type { Route } from './+types/pack-names';

/** Says how names of one shape are read in a pack, or takes that back. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    form = await readFormData(request),
    roles = request.method === 'DELETE' ? null : form.getAll('role').map(String),
    said = await sayPattern(idParam(params.packId), String(form.get('signature') ?? ''), roles, person.id);
  return typeof said === 'string' ? problem(400, said) : said;
}
