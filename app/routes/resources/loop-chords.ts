import { loopChordsForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { sayChords } from '~server/services/stated-chords.server';
import type { Route } from './+types/loop-chords';

/** PUT: a person's word on the chords of a loop; an empty line takes it back. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'PUT');
  const read = await readForm(loopChordsForm, await readFormData(request));
  if (!read.ok) return problem(400, Object.values(read.errors)[0] ?? 'These are no chords.', read.errors);
  const said = await sayChords(idParam(params.loopId), read.values.chords, person);
  if (said === 'missing') return problem(404, 'That loop is no longer there.');
  return said
    ? problem(400, `“${said.wrong}” is no chord. Write them like Dm7, F♯m, B♭/D; one a bar, a dot keeps the one before.`)
    : { ok: true };
}
