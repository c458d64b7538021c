import { parseLoopQuery } from '~core/search/query';
import { countParam, idParam } from '~server/http/input.server';
import { roomProjectId } from '~server/http/room.server';
import { requirePersonForData } from '~server/http/session.server';
import { roomProject } from '~server/services/room.server';
import { searchFor } from '~server/services/search-context.server';
import { findLoops, findRowsById } from '~server/services/search.server';
import type { Route } from './+types/loops';

/** A page of rows (`offset`), or rows by `id`. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  const { searchParams } = new URL(request.url);
  const ids = searchParams.getAll('id').map(idParam);
  if (ids.length) return Response.json({ rows: await findRowsById(ids.slice(0, 200), person.id), offset: 0 });
  const offset = countParam(searchParams.get('offset'), 0, 10_000_000);
  return Response.json(
    await findLoops(await searchFor(parseLoopQuery(searchParams), person.id, await roomProject(roomProjectId(request, person))), offset),
  );
}
