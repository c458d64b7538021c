import { PassThrough } from 'node:stream';
import { createReadableStreamFromReadable } from '@react-router/node';
import { isbot } from 'isbot';
import { renderToPipeableStream } from 'react-dom/server';
import { ServerRouter, type EntryContext } from 'react-router';
import { log } from '~server/log.server';
import { nonceHeader } from '~server/http/guard.server';
import { NonceContext } from './ui/nonce';

const streamTimeoutMs = 6_000;

/** React Router's own way of answering with a page, with the nonce that lets its scripts run. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
): Promise<Response> | Response {
  if (request.method.toUpperCase() === 'HEAD') return new Response(null, { status, headers });
  const nonce = request.headers.get(nonceHeader) ?? undefined,
    ready = isbot(request.headers.get('user-agent') ?? '') ? 'onAllReady' : 'onShellReady';
  return new Promise((resolve, reject) => {
    let code = status,
      begun = false;
    const { pipe, abort } = renderToPipeableStream(
        <NonceContext value={nonce}>
          <ServerRouter context={context} url={request.url} nonce={nonce} />
        </NonceContext>,
        {
          nonce,
          [ready]() {
            begun = true;
            const body = new PassThrough({
              final(done) {
                clearTimeout(timeout);
                done();
              },
            });
            headers.set('Content-Type', 'text/html');
            pipe(body);
            resolve(new Response(createReadableStreamFromReadable(body), { headers, status: code }));
          },
          onShellError: reject,
          onError(error: unknown) {
            code = 500;
            if (begun) log.error(error);
          },
        },
      ),
      timeout = setTimeout(() => abort(), streamTimeoutMs);
  });
}
