import { readSteps } from '~server/forms/edit-form';
import { countParam, idParam, readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { stepsSince, takeSteps } from '~server/services/projects.server';
import type { Route } from './+types/project-edits';

const mostRevision = 2_147_483_647;

/** What has been agreed on a project since a revision (`since`); without one only which revision it has. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const since = new URL(request.url).searchParams.get('since'),
    agreed = await stepsSince(idParam(params.projectId), since === null ? mostRevision : countParam(since, 0, mostRevision));
  return agreed ?? problem(404, 'There is no project with that number.');
}

/** Steps as JSON with the revision they were made on: they are put on top of what others have done since, each that fits. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const read = await readSteps(await readJson(request));
  if (!read.ok) return problem(400, read.message);
  const taken = await takeSteps(idParam(params.projectId), read.revision, read.steps, person.id);
  if (!taken) return problem(404, 'The project is no longer there.');
  // A single step that does not fit is refused as a whole.
  return taken.refused.length > 0 && taken.refused.length === read.steps.length
    ? problem(422, taken.refused[0].message, undefined, taken)
    : { ok: true, ...taken };
}
