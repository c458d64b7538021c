import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { findMade } from '~server/services/making/provenance.server';
import type { Route } from './+types/loop-made';

/** What a loop was made of, and how. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return (await findMade(idParam(params.loopId))) ?? problem(404, 'That loop was not made here.');
}
