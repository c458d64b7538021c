import { idParam } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { notesByBarOf } from '~server/services/notes.server';
import type { Route } from './+types/loop-notes';

/** Which notes sound in each bar of a loop. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return Response.json({ bars: await notesByBarOf(idParam(params.loopId)) }, { headers: { 'Cache-Control': 'private, max-age=60' } });
}
