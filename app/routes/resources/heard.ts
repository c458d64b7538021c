import { hearingForm } from '~server/forms/forms';
import { readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepHearing, listHeard } from '~server/services/heard.server';
import type { Route } from './+types/heard';

/** What who asks has heard, the latest first. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return { heard: await listHeard(person.id) };
}

/** Keeps what is heard now. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const asked: unknown = await readJson(request);
  if (!hearingForm.isValidSync(asked)) return problem(400, 'That is no hearing.');
  const { loopId, projectId, overrides, offsetBeats } = hearingForm.cast(asked, { stripUnknown: true });
  await keepHearing(person.id, { loopId, projectId: projectId ?? null, overrides: overrides as object, offsetBeats });
  return { ok: true };
}
