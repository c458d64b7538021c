import { Readable } from 'node:stream';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { resolveSelection } from '~server/services/changes/changes.server';
import { zipOfLoops } from '~server/services/facts-out.server';
import type { Route } from './+types/loops-files';

/** POST: a zip of loops (`ids` with commas, or the `address` of a search) with what is known in them; `names` vendor or title. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const form = await readFormData(request),
    ids = String(form.get('ids') ?? ''),
    address = form.get('address');
  if (!/^[\d,]*$/.test(ids)) return problem(400, 'Say which loops.');
  const chosen = await resolveSelection(
      address === null
        ? {
            ids: ids
              .split(',')
              .map(Number)
              .filter((id) => id > 0 && id < 2 ** 31),
          }
        : { address: String(address) },
      person.id,
    ),
    zip = await zipOfLoops(chosen, form.get('names') === 'title' ? 'title' : 'vendor');
  if (!zip) return problem(404, 'There is none of these loops.');
  request.signal.addEventListener('abort', () => zip.destroy(), { once: true });
  return new Response(Readable.toWeb(zip) as ReadableStream, {
    headers: { 'Content-Type': 'application/zip', 'Content-Disposition': 'attachment; filename="loops.zip"' },
  });
}
