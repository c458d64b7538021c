import { countParam } from '~server/http/input.server';
import { roomProjectId } from '~server/http/room.server';
import { requirePersonForData } from '~server/http/session.server';
import { idsOf } from '~server/services/changes/changes.server';
import { roomProject } from '~server/services/room.server';
import type { Route } from './+types/loops-ids';

/** Ids of a part of what a search finds (`offset`, `limit`), in the order of the list. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    { search, searchParams } = new URL(request.url),
    limit = countParam(searchParams.get('limit'), 60, 5000),
    offset = countParam(searchParams.get('offset'), 0, 10_000_000);
  return Response.json({ ids: await idsOf(search, person.id, limit, offset, await roomProject(roomProjectId(request, person))) });
}
