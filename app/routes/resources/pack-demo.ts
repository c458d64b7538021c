import { idParam } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { findDemo, requestDemo } from '~server/services/demo-mix.server';
import type { Route } from './+types/pack-demo';

/** Where a pack's demo mix stands. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return findDemo(idParam(params.packId));
}

/** Asks for it. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  return (await requestDemo(idParam(params.packId))) ? { ok: true } : problem(404, 'There is no such pack.');
}
