import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { archiveInstrument } from '~server/services/instruments.server';
import type { Route } from './+types/instrument';

/** Takes an instrument of the group's own out of the choices. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  return (await archiveInstrument(params.instrumentId ?? '')) ? { ok: true } : problem(404, 'There is no such instrument.');
}
