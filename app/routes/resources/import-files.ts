import { problem } from '~server/http/problem.server';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { idParam } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { receiveFile } from '~server/services/imports/receive.server';
import type { Route } from './+types/import-files';

/** PUT one file of a batch; the body is the file, `path` its place. It is streamed to disk and never held in memory. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const body = request.body ? Readable.fromWeb(request.body as unknown as NodeStream) : Readable.from([]);
  const result = await receiveFile(idParam(params.batchId), person.id, new URL(request.url).searchParams.get('path') ?? '', body);
  return result.ok ? { ok: true } : problem(409, result.message);
}
