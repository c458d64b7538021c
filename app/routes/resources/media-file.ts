import { idParam } from '~server/http/input.server';
import { mediaResponse } from '~server/http/media.server';
import { requirePersonForData } from '~server/http/session.server';
import { findLoop } from '~server/services/loops.server';
import type { Route } from './+types/media-file';

/** The vendor's own file of a loop, under the vendor's name. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  const loop = await findLoop(idParam(params.loopId), person.id);
  return loop
    ? mediaResponse(loop.fileSha, request, { format: loop.fileFormat, download: loop.row.fileName })
    : new Response('There is no such loop.', { status: 404 });
}
