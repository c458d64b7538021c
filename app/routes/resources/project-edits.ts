import { readEdits } from '~server/forms/edit-form';
import { idParam, readJson } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { editProject } from '~server/services/projects.server';
import type { Route } from './+types/project-edits';

/** Edits as JSON with the revision they were made on. 409: somebody was faster. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  const read = await readEdits(await readJson(request));
  if (!read.ok) return Response.json({ ok: false, reason: 'refused', message: read.message }, { status: 400 });
  const result = await editProject(idParam(params.projectId), read.revision, read.edits);
  return Response.json(result, { status: result.ok ? 200 : result.reason === 'stale' ? 409 : result.reason === 'missing' ? 404 : 422 });
}
