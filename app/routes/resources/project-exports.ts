import { problem } from '~server/http/problem.server';
import { exportForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { listExports, requestExport } from '~server/services/exports.server';
import type { Route } from './+types/project-exports';

export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return { exports: await listExports(idParam(params.projectId)) };
}

/** Asks for a mixdown. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const read = await readForm(exportForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  return { exportId: await requestExport(idParam(params.projectId), person.id, read.values) };
}
