import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { dropNote, tickNote } from '~server/services/project-room.server';
import type { Route } from './+types/project-note';

/** PUT: ticks a note off (`done` 1), or takes it up again; DELETE: takes back one's own. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    [projectId, noteId] = [idParam(params.projectId), idParam(params.noteId)],
    isThere =
      onlyMethods(request, 'PUT', 'DELETE') === 'DELETE'
        ? await dropNote(projectId, noteId, person.id)
        : await tickNote(projectId, noteId, (await readFormData(request)).get('done') === '1', person.id);
  return isThere ? { ok: true } : problem(404, 'There is no such note, or it is not yours.');
}
