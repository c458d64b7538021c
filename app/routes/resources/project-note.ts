import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { dropNote, restoreNote, tickNote } from '~server/services/project-room.server';
import type { Route } from './+types/project-note';

/** PUT: ticks a note off (`done` 1), or takes it up again, or says again what one has taken back (`restore`); DELETE: takes back one's own. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    [projectId, noteId] = [idParam(params.projectId), idParam(params.noteId)],
    isThere =
      onlyMethods(request, 'PUT', 'DELETE') === 'DELETE'
        ? await dropNote(projectId, noteId, person.id)
        : await change(projectId, noteId, await readFormData(request), person.id);
  return isThere ? { ok: true } : problem(404, 'There is no such note, or it is not yours.');
}

const change = (projectId: number, noteId: number, form: FormData, personId: number): Promise<boolean> =>
  form.has('restore') ? restoreNote(projectId, noteId, personId) : tickNote(projectId, noteId, form.get('done') === '1', personId);
