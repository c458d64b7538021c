import { readEdits } from '~server/forms/edit-form';
import { idParam, readJson } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { editProject, revisionOf } from '~server/services/projects.server';
import type { Route } from './+types/project-edits';

/** Which revision a project has: for a page that was loaded before it could hear what changes. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const revision = await revisionOf(idParam(params.projectId));
  return revision === null ? problem(404, 'There is no project with that number.') : { revision };
}

/** Edits as JSON with the revision they were made on. 409: somebody was faster. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  const read = await readEdits(await readJson(request));
  if (!read.ok) return Response.json({ ok: false, reason: 'refused', message: read.message }, { status: 400 });
  const result = await editProject(idParam(params.projectId), read.revision, read.edits);
  return Response.json(result, { status: result.ok ? 200 : result.reason === 'stale' ? 409 : result.reason === 'missing' ? 404 : 422 });
}
