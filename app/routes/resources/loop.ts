import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { findLoop } from '~server/services/loops.server';
import type { Route } from './+types/loop';

/** Everything about one loop: what is known, how surely, and who or what said so. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    detail = await findLoop(idParam(params.loopId), person.id);
  return detail ? { detail } : problem(404, 'There is no such loop.');
}
