import { requirePersonForData } from '~server/http/session.server';
import { archiveInstrument } from '~server/services/instruments.server';
import type { Route } from './+types/instrument';

/** Takes an instrument of the group's own out of the choices. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  await archiveInstrument(params.instrumentId ?? '');
  return { ok: true };
}
