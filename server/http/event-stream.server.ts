import { createSession } from 'better-sse';
import type { NextFunction, Request, Response } from 'express';
import { isToldTo } from '~contracts/live-event';
import { hearAnnouncements } from '../events/announce.server';
import { findSignedIn, sessionName } from '../services/sessions.server';
import { sessionToken } from './session.server';

const checkMs = 20_000;

/** What happens, as server-sent events, until the page leaves or its session ends. A stranger gets 401. */
export function eventStream(request: Request, response: Response, next: NextFunction): void {
  stream(request, response).catch(next);
}

async function stream(request: Request, response: Response): Promise<void> {
  const token = await sessionToken(new globalThis.Request('http://here.invalid/', { headers: { Cookie: request.headers.cookie ?? '' } })),
    person = await findSignedIn(token);
  if (!person || token === null) return void response.status(401).send('Please sign in first.');
  const name = sessionName(token),
    session = await createSession(request, response, {
      retry: 2000,
      keepAlive: checkMs,
      // `no-transform` keeps the compression middleware from holding events back.
      headers: { 'Cache-Control': 'no-cache, no-transform', 'X-Accel-Buffering': 'no' },
    }),
    // Nothing is written behind the end: that would be an error which ends the process.
    end = () => {
      leave();
      response.end();
    },
    // A page whose stream ends asks for it again, and for all that it may have missed.
    deaf = hearAnnouncements((event) => {
      if (event.kind === 'signed-out') {
        if (event.sessions.includes(name)) end();
      } else if (isToldTo(event, person.id) && session.isConnected) session.push(event);
    }, end),
    // One that has run out, or whose person has left, is not announced. A database that is away ends nothing.
    checking = setInterval(() => {
      void findSignedIn(token).then(
        (still) => still || end(),
        () => {},
      );
    }, checkMs),
    leave = () => {
      clearInterval(checking);
      deaf();
    };
  // The library's own signs of life go on until the line is closed.
  response.on('error', leave);
  if (session.isConnected) session.once('disconnected', leave);
  else leave();
}
