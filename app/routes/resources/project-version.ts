import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { dropVersion, versionOf } from '~server/services/project-room.server';
import type { Route } from './+types/project-version';

const none = () => problem(404, 'There is no such version.');

/** The project as it was then. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return (await versionOf(idParam(params.projectId), idParam(params.versionId))) ?? none();
}

/** DELETE: forgets it; the project stays as it is. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  onlyMethods(request, 'DELETE');
  const name = await dropVersion(idParam(params.projectId), idParam(params.versionId));
  return name === null ? none() : { name };
}
