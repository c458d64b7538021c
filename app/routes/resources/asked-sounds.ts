import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { askWithSound } from '~server/services/asked-sounds.server';
import type { Route } from './+types/asked-sounds';

/** POST: hears a sound that a query is asked with; the body is the file. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  onlyMethods(request, 'POST');
  const name = (new URL(request.url).searchParams.get('name') ?? 'a sound').slice(0, 120),
    body = request.body ? Readable.fromWeb(request.body as unknown as NodeStream) : Readable.from([]),
    heard = await askWithSound(person.id, name, body);
  return typeof heard === 'string' ? problem(422, heard) : heard;
}
