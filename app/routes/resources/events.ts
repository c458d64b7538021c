import { eventStream } from '~server/http/events.server';
import { requirePersonForData } from '~server/http/session.server';
import type { Route } from './+types/events';

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return eventStream(request.signal, person.id);
}
