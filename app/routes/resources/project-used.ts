import { idParam } from '~server/http/input.server';
import { textFile } from '~server/http/media.server';
import { problemResponse } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { creditsText, usedIn } from '~server/services/used-loops.server';
import type { Route } from './+types/project-used';

/** The loops that are heard in a project as it is now, and under what they stand; with `as=text` as a list to be handed over. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    found = await usedIn(idParam(params.projectId), person.id);
  if (!found) throw problemResponse(404, 'The project is no longer there.');
  const { project, used } = found;
  return new URL(request.url).searchParams.get('as') === 'text'
    ? textFile(`${project.name}, used loops.txt`, creditsText(project, used))
    : { used };
}
