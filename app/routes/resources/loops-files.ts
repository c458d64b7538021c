import { Readable } from 'node:stream';
import { wrongInPattern } from '~core/library/change';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { readSelection } from '~server/http/selection.server';
import { requirePersonForData } from '~server/http/session.server';
import { resolveSelection } from '~server/services/changes/changes.server';
import { zipOfLoops } from '~server/services/facts-out.server';
import type { Route } from './+types/loops-files';

/** POST: a zip of loops (`ids` with commas, or the `address` of a search) with what is known in them; `names` vendor, title or pattern, which is then in `pattern`. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const form = await readFormData(request),
    selection = readSelection(form),
    chosen = selection ? await resolveSelection(selection, person.id) : [],
    names = form.get('names'),
    pattern = String(form.get('pattern') ?? '').slice(0, 200),
    wrong = names === 'pattern' ? wrongInPattern(pattern) : null;
  if (wrong) return problem(400, wrong);
  const zip = await zipOfLoops(chosen, names === 'pattern' ? { pattern } : names === 'title' ? 'title' : 'vendor');
  if (!zip) return problem(404, 'There is none of these loops.');
  request.signal.addEventListener('abort', () => zip.destroy(), { once: true });
  return new Response(Readable.toWeb(zip) as ReadableStream, {
    headers: { 'Content-Type': 'application/zip', 'Content-Disposition': 'attachment; filename="loops.zip"' },
  });
}
