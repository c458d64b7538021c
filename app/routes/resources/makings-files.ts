import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { takeFile } from '~server/services/making/take-file.server';
import type { Route } from './+types/makings-files';

/** POST: takes a sound that was recorded or dropped; the body is the file. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const { searchParams } = new URL(request.url),
    name = searchParams.get('name') ?? '',
    tempo = Number(searchParams.get('tempo')),
    body = request.body ? Readable.fromWeb(request.body as unknown as NodeStream) : Readable.from([]),
    taken = await takeFile(person.id, name, tempo >= 30 && tempo <= 300 ? tempo : null, body);
  return typeof taken === 'string' ? problem(422, taken) : { id: taken };
}
