import { createSession } from 'better-sse';
import type { NextFunction, Request, Response } from 'express';
import { isToldTo, type LiveEvent } from '~contracts/live-event';
import { announcedSince, hearAnnouncements, liveMark } from '../events/announce.server';
import { findSignedIn, sessionName } from '../services/sessions.server';
import { sessionToken } from './session.server';

const checkMs = 20_000;

/**
 * What happens, as server-sent events, until the page leaves or its session ends. A stranger gets 401. It begins with what was announced since the
 * event that the page has heard last, or since the mark `since` in the address; where that is not known, by saying so.
 */
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
    tell = (event: LiveEvent, mark: string) => {
      if (isToldTo(event, person.id) && session.isConnected) session.push(event, 'message', mark);
    },
    since = session.lastId || String(request.query.since),
    // A page whose stream ends asks for it again, and for all that it may have missed.
    deaf = hearAnnouncements((event, mark) => {
      if (event.kind !== 'signed-out') tell(event, mark);
      else if (event.sessions.includes(name)) end();
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
  // Nothing comes between: it is one step of this process.
  for (const { event, mark } of announcedSince(since) ?? [{ event: { kind: 'missed' }, mark: liveMark() } as const]) tell(event, mark);
  // The library's own signs of life go on until the line is closed.
  response.on('error', leave);
  if (session.isConnected) session.once('disconnected', leave);
  else leave();
}
