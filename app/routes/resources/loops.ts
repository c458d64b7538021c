import { parseLoopQuery } from '~core/search/query';
import { requirePersonForData } from '~server/http/session.server';
import { roomProject } from '~server/services/room.server';
import { findLoops, findRowsById } from '~server/services/search.server';
import type { Route } from './+types/loops';

/** A page of rows (`offset`), or rows by `id`. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  const { searchParams } = new URL(request.url);
  const ids = searchParams.getAll('id').map(Number).filter(Number.isInteger);
  if (ids.length) return Response.json({ rows: await findRowsById(ids.slice(0, 200), person.id), offset: 0 });
  const offset = Math.max(0, Math.min(1_000_000, Number(searchParams.get('offset')) || 0));
  return Response.json(await findLoops(parseLoopQuery(searchParams), person.id, await roomProject(person), offset));
}
