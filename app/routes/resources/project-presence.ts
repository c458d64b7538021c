import { presenceForm } from '~server/forms/forms';
import { idParam, readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { tellPresence } from '~server/services/project-room.server';
import type { Route } from './+types/project-presence';

/** POST: this page has the project open, and holds a clip or none. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const body = await readJson(request);
  if (!presenceForm.isValidSync(body)) return problem(400, 'It could not be read who is here.');
  const { pageId, clipId, leaves } = presenceForm.cast(body, { stripUnknown: true });
  await tellPresence({
    projectId: idParam(params.projectId),
    pageId,
    clipId: clipId ?? null,
    leaves,
    personId: person.id,
    name: person.name,
  });
  return { ok: true };
}
