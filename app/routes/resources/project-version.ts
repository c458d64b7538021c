import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { dropVersion, restoreVersion, versionOf } from '~server/services/project-room.server';
import type { Route } from './+types/project-version';

const none = () => problem(404, 'There is no such version.');

/** The project as it was then. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return (await versionOf(idParam(params.projectId), idParam(params.versionId))) ?? none();
}

/** DELETE: forgets it; the project stays as it is. PUT: brings it back. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  const [projectId, versionId] = [idParam(params.projectId), idParam(params.versionId)];
  if (onlyMethods(request, 'PUT', 'DELETE') === 'PUT') return (await restoreVersion(projectId, versionId)) ? { ok: true } : none();
  const name = await dropVersion(projectId, versionId);
  return name === null ? none() : { name };
}
