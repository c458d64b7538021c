import { requirePersonForData } from '~server/http/session.server';
import { packsInDoubt } from '~server/services/doubts.server';
import type { Route } from './+types/doubts-packs';

/** Packs in which something is in doubt, and how far each is. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return { packs: await packsInDoubt() };
}
