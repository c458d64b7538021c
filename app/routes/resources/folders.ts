import { folderForm, readForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requireKeeper, requirePersonForData } from '~server/http/session.server';
import { addFolder, listFolders } from '~server/services/folders/folders.server';
import { foldersToChoose } from '~server/services/folders/walk.server';
import type { Route } from './+types/folders';

/** Folders from which loops come in. */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return { folders: await listFolders(), choices: person.role === 'keeper' ? await foldersToChoose() : [] };
}

/** Adds one. */
export async function action({ request }: Route.ActionArgs) {
  const keeper = await requireKeeper(request),
    read = await readForm(folderForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  const { path, isWatched, ...draft } = read.values,
    added = await addFolder(path, draft, isWatched, keeper.id);
  return typeof added === 'string' ? problem(400, added) : { id: added };
}
