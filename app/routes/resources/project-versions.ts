import { readForm, versionForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepVersion, versionsOf } from '~server/services/project-room.server';
import type { Route } from './+types/project-versions';

/** The named states of a project. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return { versions: await versionsOf(idParam(params.projectId), person.id) };
}

/** POST: keeps the project as it is now under a name. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const read = await readForm(versionForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'It cannot be kept like that.', read.errors);
  const id = await keepVersion(idParam(params.projectId), read.values.name, person.id);
  return id === null ? problem(404, 'There is no such project, or it is archived.') : { id };
}
