import { idParam } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { suggestedTags } from '~server/services/tags.server';
import type { Route } from './+types/tags';

const mostLoops = 200;

/** Tags that would suit what is made of some loops. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const loopIds = new URL(request.url).searchParams.getAll('loop').slice(0, mostLoops).map(idParam);
  return { tags: await suggestedTags(loopIds) };
}
