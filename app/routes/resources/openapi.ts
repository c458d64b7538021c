import { openApi } from '~server/api/openapi';
import { requirePersonForData } from '~server/http/session.server';
import type { Route } from './+types/openapi';

export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return Response.json(openApi());
}
