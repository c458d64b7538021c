import { mediaResponse } from '~server/http/media.server';
import { requirePersonForData } from '~server/http/session.server';
import type { Route } from './+types/media-sound';

/** The decoded sound of a loop by its hash, as the engine plays it. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return mediaResponse(params.sha, request);
}
