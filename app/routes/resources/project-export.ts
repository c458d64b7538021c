import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { stopExport } from '~server/services/exports.server';
import type { Route } from './+types/project-export';

/** DELETE: stops a mixdown, or an archive with stems, that has not gone out yet. */
export async function action({ request, params }: Route.ActionArgs) {
  onlyMethods(request, 'DELETE');
  const person = await requirePersonForData(request);
  if (!(await stopExport(idParam(params.exportId), person))) return problem(409, 'It is there already, or somebody else’s to stop.');
  return { ok: true };
}
