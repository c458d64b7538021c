import { countParam, idParam } from '~server/http/input.server';
import { lookUpOf } from '~server/http/look-up.server';
import { requirePersonForData } from '~server/http/session.server';
import { lookUp } from '~server/services/look-up.server';
import { findRowsById } from '~server/services/search.server';
import type { Route } from './+types/loops';

/** A page of rows (`offset`), with what else is wanted of the search; or rows by `id`. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  const { searchParams } = new URL(request.url);
  const ids = searchParams.getAll('id').map(idParam);
  if (ids.length) return Response.json({ rows: await findRowsById(ids.slice(0, 200), person.id), offset: 0 });
  const jumpTo = searchParams.get('jump')?.slice(0, 40),
    groups = searchParams.get('groups');
  return Response.json(
    await lookUp(await lookUpOf(request, person), {
      offset: countParam(searchParams.get('offset'), 0, 10_000_000),
      limit: countParam(searchParams.get('limit'), 60, 200),
      facets: searchParams.get('facets') === '1',
      map: searchParams.get('map') === '1',
      groups: groups === 'pack' || groups === 'set' ? groups : null,
      jumpTo,
    }),
  );
}
