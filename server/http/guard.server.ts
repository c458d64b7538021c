import { randomBytes } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { config } from '../config.server';
import { sendProblem } from './problem.server';
import { addressHeader } from './session.server';

/** Set by us for each page; what a client sends under this name is thrown away. */
export const nonceHeader = 'x-garnetfinch-nonce';

/** What stands at the door: whose word is taken on who asks, how much may be sent, and what a page may do. */
export const guards = [tellTruth, refuseUnreadable, refuseOtherSites, limitBody, policies];

/** Headers of our own say what the connection, or a trusted proxy, says. Behind a proxy that rewrites the host, the host is the public one. */
function tellTruth(request: Request, _response: Response, next: NextFunction): void {
  request.headers[addressHeader] = request.ip ?? 'unknown';
  request.headers[nonceHeader] = randomBytes(16).toString('base64');
  const { publicUrl } = config;
  if (publicUrl && originHost(request) === publicUrl.host) {
    request.headers.host = publicUrl.host;
    delete request.headers['x-forwarded-host'];
  }
  next();
}

/** The host of the page that sends; null where none is named, and for what is no address, as of a page without an origin. */
function originHost({ headers: { origin } }: Request): string | null {
  try {
    return origin ? new URL(origin).host : null;
  } catch {
    return null;
  }
}

/** An address whose path stands for no text, or that has a zero in it, which no database keeps. */
function refuseUnreadable(request: Request, response: Response, next: NextFunction): void {
  if (isReadable(request.url)) next();
  else sendProblem(response, 400, 'That address cannot be read.');
}

/** @example isReadable('/loops?q=%00') // => false */
export function isReadable(url: string): boolean {
  try {
    decodeURIComponent(url.split('?', 1)[0]);
    return !url.includes('%00');
  } catch {
    return false;
  }
}

/** A form on another site must not act in a signed-in person's name. */
function refuseOtherSites(request: Request, response: Response, next: NextFunction): void {
  if (request.method !== 'GET' && request.method !== 'HEAD' && request.headers.origin && originHost(request) !== request.headers.host)
    return sendProblem(response, 403, 'This request came from another site.');
  next();
}

/** So long an answer has to go out before a connection is given up on which somebody still sends. */
const answeredMs = 500;

const mebibyte = 2 ** 20,
  /** Forms are small; edits of a large project are not. A file may be as large as a vendor's largest pack, as long as it goes on coming. */
  limits: readonly { readonly path: RegExp; readonly bytes: number; readonly wholeMs: number | null; readonly idleMs: number }[] = [
    { path: /^\/api\/v1\/imports\/\d+\/files$/, bytes: 40 * 1024 * mebibyte, wholeMs: null, idleMs: 120_000 },
    { path: /^\/api\/v1\/uploads\/b\d+-[0-9a-f]+$/, bytes: 64 * mebibyte, wholeMs: null, idleMs: 120_000 },
    // A sound to look for: as long as a file may be, a full mix too.
    { path: /^\/api\/v1\/asked-sounds$/, bytes: 512 * mebibyte, wholeMs: null, idleMs: 20_000 },
    { path: /^\/api\/v1\/makings\/files$/, bytes: 512 * mebibyte, wholeMs: null, idleMs: 20_000 },
    { path: /^\/api\/v1\/makings$/, bytes: 4 * mebibyte, wholeMs: 60_000, idleMs: 20_000 },
    { path: /^\/api\/v1\/projects\/\d+\/edits$/, bytes: 8 * mebibyte, wholeMs: 60_000, idleMs: 20_000 },
    { path: /^/, bytes: mebibyte / 4, wholeMs: 30_000, idleMs: 15_000 },
  ];

/** Ends a request whose body is larger, or comes more slowly, than its route has use for. */
function limitBody(request: Request, response: Response, next: NextFunction): void {
  const { bytes: most, wholeMs, idleMs } = limits.find(({ path }) => path.test(request.path)) as (typeof limits)[number];
  if (Number(request.headers['content-length'] ?? 0) > most) return refuse(413, 'That is more than is taken here.');
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  let received = 0,
    idle = setTimeout(tooSlow, idleMs);
  const whole = wholeMs === null ? undefined : setTimeout(tooSlow, wholeMs),
    push = request.push.bind(request),
    done = () => {
      clearTimeout(idle);
      clearTimeout(whole);
    };
  // Node hands every piece of a body over by `push`; looking at it there takes nothing away from whoever reads it.
  request.push = (piece: Buffer | null, encoding?: BufferEncoding) => {
    if (piece === null) done();
    else {
      received += piece.length;
      clearTimeout(idle);
      idle = setTimeout(tooSlow, idleMs);
      if (received > most) refuse(413, 'That is more than is taken here.');
    }
    return push(piece, encoding);
  };
  response.once('close', done);
  response.once('finish', () => request.complete || letGo(request, most));
  next();

  function tooSlow(): void {
    refuse(408, 'The request took too long to arrive.');
  }
  function refuse(status: number, words: string): void {
    if (!response.headersSent) sendProblem(response.set('Connection', 'close'), status, words);
    // What still comes is not listened to; the answer goes out first.
    setTimeout(() => request.destroy(), answeredMs).unref();
  }
}

/** What is left of a body is taken and thrown away up to so much; of more the connection is given up. */
const mostThrownAway = mebibyte;

/**
 * A request that was answered before its body was read: what is left of it lies in front of the next request of the same connection, which would
 * not be answered until it is taken away.
 */
function letGo(request: Request, most: number): void {
  const bytes = Number(request.headers['content-length'] ?? most);
  if (bytes > mostThrownAway) return void setTimeout(() => request.destroy(), answeredMs).unref();
  request.removeAllListeners('data');
  request.resume();
}

/** Everything the pages need ships with us; nothing from elsewhere runs, is loaded, or frames them. */
function policies(request: Request, response: Response, next: NextFunction): void {
  const nonce = request.headers[nonceHeader] as string,
    secure = config.publicUrl?.protocol === 'https:';
  helmet({
    contentSecurityPolicy: process.env.NODE_ENV === 'production' && {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The transforms and decoders are WebAssembly.
        scriptSrc: ["'self'", `'nonce-${nonce}'`, "'wasm-unsafe-eval'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        mediaSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'"],
        fontSrc: ["'self'", 'data:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    referrerPolicy: { policy: 'same-origin' },
    frameguard: { action: 'deny' },
    strictTransportSecurity: secure && { maxAge: 180 * 86_400, includeSubDomains: false },
  })(request, response, next);
}
