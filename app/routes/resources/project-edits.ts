import type { Edit } from '~core/arrangement/edit';
import { requirePersonForData } from '~server/http/session.server';
import { editProject } from '~server/services/projects.server';
import type { Route } from './+types/project-edits';

/** Edits as JSON with the revision they were made on. 409: somebody was faster. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  const body = (await request.json()) as { revision?: unknown; edits?: unknown };
  if (typeof body.revision !== 'number' || !Array.isArray(body.edits) || body.edits.length > 500)
    return Response.json({ ok: false, reason: 'refused', message: 'The change could not be read.' }, { status: 400 });
  const result = await editProject(Number(params.projectId), body.revision, body.edits as Edit[]);
  return Response.json(result, { status: result.ok ? 200 : result.reason === 'stale' ? 409 : result.reason === 'missing' ? 404 : 422 });
}
