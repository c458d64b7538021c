import { idParam, readFormData } from '~server/http/input.server';
import { requireKeeper } from '~server/http/session.server';
import { lookInto, removeFolder, setWatched } from '~server/services/folders/folders.server';
import type { Route } from './+types/folder';

/** Watches a folder, has it looked into, forgets it. */
export async function action({ request, params }: Route.ActionArgs) {
  const keeper = await requireKeeper(request),
    id = idParam(params.folderId);
  if (request.method === 'DELETE') await removeFolder(id, keeper.id);
  else {
    const form = await readFormData(request);
    if (form.has('isWatched')) await setWatched(id, form.get('isWatched') === '1');
    if (form.has('look')) await lookInto(id);
  }
  return { ok: true };
}
