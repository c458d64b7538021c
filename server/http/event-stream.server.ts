import { createResponse } from 'better-sse';
import { isToldTo } from '~contracts/live-event';
import { hearAnnouncements } from '../events/announce.server';

const checkMs = 20_000;

/**
 * A server-sent event stream that ends with the request, or with the session.
 * @param session by which the session is known; `isOpen` says whether it still is one
 */
export function eventStream(request: Request, personId: number, session: string, isOpen: () => Promise<boolean>): Response {
  const ending = new AbortController(),
    end = () => ending.abort();
  if (request.signal.aborted) end();
  else request.signal.addEventListener('abort', end, { once: true });
  return createResponse(
    new Request(request, { signal: ending.signal }),
    {
      retry: 2000,
      keepAlive: checkMs,
      // `no-transform` keeps the compression middleware from holding events back.
      headers: { 'Cache-Control': 'no-cache, no-transform', 'X-Accel-Buffering': 'no' },
    },
    (stream) => {
      const deaf = hearAnnouncements((event) => {
          if (event.kind === 'signed-out') {
            if (event.sessions.includes(session)) end();
          } else if (isToldTo(event, personId) && stream.isConnected) stream.push(event);
        }),
        // One that has run out, or whose person has left, is not announced. A database that is away ends nothing.
        checking = setInterval(() => {
          void isOpen().then(
            (open) => open || end(),
            () => {},
          );
        }, checkMs);
      stream.once('disconnected', () => {
        clearInterval(checking);
        deaf();
      });
    },
  );
}
