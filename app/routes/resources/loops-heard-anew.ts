import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { readSelection } from '~server/http/selection.server';
import { readFormData } from '~server/http/input.server';
import { resolveSelection } from '~server/services/changes/changes.server';
import { hearAnew } from '~server/services/reanalysis.server';
import type { Route } from './+types/loops-heard-anew';

/** POST: loops (`ids` with commas, or the `address` of a search) are listened to again, from their files. What people said stays. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const selection = readSelection(await readFormData(request)),
    ids = selection ? await resolveSelection(selection, person.id) : [];
  return ids.length === 0 ? problem(400, 'Say which loops.') : Response.json({ loops: await hearAnew(ids) });
}
