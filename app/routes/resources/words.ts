import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { takeBackWords } from '~server/services/words.server';
import type { Route } from './+types/words';

/** DELETE: takes back the words named by `word`; what each ended is in force again, and what was said since stays. */
export async function action({ request }: Route.ActionArgs) {
  onlyMethods(request, 'DELETE');
  const person = await requirePersonForData(request),
    words = (await readFormData(request)).getAll('word').map((word) => idParam(String(word)));
  if (words.length === 0) return problem(400, 'Say which words.');
  await takeBackWords(words, person.id);
  return { ok: true };
}
