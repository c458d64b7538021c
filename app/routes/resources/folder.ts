import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requireKeeper } from '~server/http/session.server';
import { askToLook, removeFolder, setWatched } from '~server/services/folders/folders.server';
import type { Route } from './+types/folder';

const none = () => problem(404, 'There is no such folder.');

/** Watches a folder, has it looked into, forgets it. */
export async function action({ request, params }: Route.ActionArgs) {
  const keeper = await requireKeeper(request),
    id = idParam(params.folderId);
  if (request.method === 'DELETE') return (await removeFolder(id, keeper.id)) ? { ok: true } : none();
  const form = await readFormData(request);
  if (form.has('isWatched') && !(await setWatched(id, form.get('isWatched') === '1'))) return none();
  if (form.has('look') && !(await askToLook(id))) return none();
  return { ok: true };
}
