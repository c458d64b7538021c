import { problem } from '~server/http/problem.server';
import { emptyProject } from '~core/arrangement/tree';
import { parseKeyCode } from '~core/theory/key';
import { projectForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { requirePersonForData, sessionToken } from '~server/http/session.server';
import { setSessionProject } from '~server/services/sessions.server';
import { projectFromLoop } from '~server/services/project-from-loop.server';
import { archiveProject, createProject, duplicateProject, listProjects } from '~server/services/projects.server';
import type { Route } from './+types/projects';

/** The projects that are not archived, the latest changed first. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return { projects: await listProjects() };
}

/** Makes a project (also from a loop, or of another), brings one into the room, archives one. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const form = await readFormData(request),
    intent = String(form.get('intent')),
    named = String(form.get('projectId') ?? ''),
    id = named === '' || named === '0' ? null : idParam(named);
  if (intent === 'enter') {
    await setSessionProject(await sessionToken(request), id);
    return { ok: true };
  }
  if (intent === 'archive' || intent === 'restore') {
    const isThere = id !== null && (await archiveProject(id, intent === 'archive', person.id));
    return isThere ? { ok: true } : problem(404, 'There is no such project.');
  }
  if (intent === 'duplicate') {
    const copy = id && (await duplicateProject(id, person.id));
    return copy ? { id: copy } : problem(404, 'There is no such project, or it is archived.');
  }
  const made =
    intent === 'from-loop' ? await projectFromLoop(idParam(String(form.get('loopId'))), person.id) : await fromForm(form, person.id);
  if ('errors' in made) return problem(400, 'Some of it cannot be taken.', made.errors);
  await setSessionProject(await sessionToken(request), made.id);
  return { id: made.id };
}

async function fromForm(form: FormData, personId: number) {
  const read = await readForm(projectForm, form);
  if (!read.ok) return { errors: read.errors };
  const { name, tempo, key, meter } = read.values;
  return { id: await createProject(emptyProject(name, tempo, parseKeyCode(key), meter), personId) };
}
