import { eventStream } from '~server/http/event-stream.server';
import { requirePersonForData, sessionToken } from '~server/http/session.server';
import { findSignedIn, sessionName } from '~server/services/sessions.server';
import type { Route } from './+types/events';

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    token = (await sessionToken(request)) ?? '';
  return eventStream(request, person.id, sessionName(token), async () => (await findSignedIn(token)) !== null);
}
