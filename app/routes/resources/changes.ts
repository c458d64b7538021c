import * as yup from 'yup';
import { readChange } from '~core/library/change';
import { readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { listChanges, makeChange, previewChange, type Selection } from '~server/services/changes/changes.server';
import type { Route } from './+types/changes';

const asked = yup.object({
  selection: yup
    .object({ ids: yup.array(yup.number().integer().min(1).max(2_147_483_647).required()).max(5000), address: yup.string().max(4000) })
    .required(),
  change: yup.object().required(),
  preview: yup.boolean().default(false),
});

/** The latest changes to many loops at once. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return Response.json({ changes: await listChanges() });
}

/** POST: what a change would do (`preview`), or does it. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const body = await readJson(request);
  if (!asked.isValidSync(body)) return problem(400, 'Say which loops, and what to do.');
  const { selection, preview } = asked.cast(body);
  // Nothing said is nothing chosen, and not everything.
  if (!selection.ids && selection.address === undefined) return problem(400, 'Say which loops.');
  const which: Selection = selection.ids ? { ids: selection.ids } : { address: selection.address ?? '' },
    change = readChange((body as { change: Record<string, unknown> }).change);
  if (typeof change === 'string') return problem(400, change);
  if (preview) return Response.json(await previewChange(which, change, person.id));
  const made = await makeChange(which, change, person);
  return typeof made === 'string' ? problem(409, made) : Response.json(made);
}
