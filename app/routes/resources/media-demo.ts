import { idParam } from '~server/http/input.server';
import { mediaResponse } from '~server/http/media.server';
import { requirePersonForData } from '~server/http/session.server';
import { findDemo } from '~server/services/demo-mix.server';
import type { Route } from './+types/media-demo';

/** A pack's demo mix. The address names its contents beside, so that a new one is fetched. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const { fileSha } = await findDemo(idParam(params.packId));
  return fileSha ? mediaResponse(fileSha, request) : new Response('There is no demo mix yet.', { status: 404 });
}
