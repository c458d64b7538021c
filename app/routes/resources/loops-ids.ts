import { countParam } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { idsOf } from '~server/services/changes/changes.server';
import type { Route } from './+types/loops-ids';

/** Ids of a part of what a search finds (`offset`, `limit`), in the list's order; ordered by fit they come as they were added. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    { search, searchParams } = new URL(request.url);
  return Response.json({
    ids: await idsOf(
      search,
      person.id,
      countParam(searchParams.get('limit'), 60, 5000),
      countParam(searchParams.get('offset'), 0, 10_000_000),
    ),
  });
}
