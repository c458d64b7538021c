import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { bringBackWords, takeBackWords } from '~server/services/words.server';
import type { Route } from './+types/words';

/** DELETE: takes back the words named by `word`; what each ended is in force again, and what was said since stays. PUT: lets those hold again that were withdrawn. */
export async function action({ request }: Route.ActionArgs) {
  const method = onlyMethods(request, 'PUT', 'DELETE');
  const person = await requirePersonForData(request),
    words = (await readFormData(request)).getAll('word').map((word) => idParam(String(word)));
  if (words.length === 0) return problem(400, 'Say which words.');
  await (method === 'PUT' ? bringBackWords : takeBackWords)(words, person.id);
  return { ok: true };
}
