import { barNoteForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { addNote, notesOf } from '~server/services/project-room.server';
import { revisionOf } from '~server/services/projects.server';
import type { Route } from './+types/project-notes';

/** What is said to the bars of a project. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePersonForData(request);
  return { notes: await notesOf(idParam(params.projectId), person.id) };
}

/** POST: says something to a beat, or to a note. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    projectId = idParam(params.projectId);
  onlyMethods(request, 'POST');
  const form = await readFormData(request);
  if (form.get('answersId') === '') form.delete('answersId');
  const read = await readForm(barNoteForm, form);
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'It cannot be said like that.', read.errors);
  if ((await revisionOf(projectId)) === null) return problem(404, 'There is no project with that number.');
  const id = await addNote(projectId, read.values, person.id);
  return id === null ? problem(404, 'What it answers is no longer there.') : { id };
}
