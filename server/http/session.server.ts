import { createCookie, redirect } from 'react-router';
import { config } from '../config.server';
import { pageAddress } from './page-address';
import { problemResponse } from './problem.server';
import { findSignedIn, type SignedIn } from '../services/sessions.server';

/** A cookie that scripts cannot read and other sites cannot send with their forms. Behind a proxy its address is the public one. */
const cookie = createCookie('garnetfinch', {
  path: '/',
  httpOnly: true,
  sameSite: 'lax',
  ...(config.publicUrl?.protocol === 'https:' ? { secure: true } : {}),
});

/** The token that a request brings; null without one. What names a session is looked up, so it is not signed. */
export async function sessionToken(request: Request): Promise<string | null> {
  const value: unknown = await cookie.parse(request.headers.get('Cookie'));
  return typeof value === 'string' && /^[A-Za-z0-9_-]{20,}$/.test(value) ? value : null;
}

/** @param maxAgeSeconds 0 takes the cookie away */
export const sessionCookie = (token: string, maxAgeSeconds: number, request: Request): Promise<string> =>
  cookie.serialize(token, {
    maxAge: maxAgeSeconds,
    ...(new URL(request.url).protocol === 'https:' ? { secure: true } : {}),
  });

/** The person who asks. Pages send a stranger to sign in, and back afterwards. @throws a redirect */
export async function requirePerson(request: Request): Promise<SignedIn> {
  const person = await findSignedIn(await sessionToken(request));
  if (person) return person;
  throw redirect(`/sign-in?to=${encodeURIComponent(pageAddress(new URL(request.url)))}`);
}

/** The same for data and media: a stranger gets 401. @throws a response */
export async function requirePersonForData(request: Request): Promise<SignedIn> {
  const person = await findSignedIn(await sessionToken(request));
  if (person) return person;
  throw problemResponse(401, 'Please sign in first.');
}

/** The same for what only a keeper may do. @throws a response */
export async function requireKeeper(request: Request): Promise<SignedIn> {
  const person = await requirePersonForData(request);
  if (person.role !== 'keeper') throw problemResponse(403, 'Only a keeper can do that.');
  return person;
}

/** Set by the server itself from the connection or a trusted proxy; what a client sends under this name is thrown away. */
export const addressHeader = 'x-garnetfinch-address';

export const clientAddress = (request: Request): string => request.headers.get(addressHeader) ?? 'unknown';

/** A path of ours to go to, whatever was asked for: an address of somebody else's becomes the first page. */
export function pathOfOurs(to: string | null): string {
  const base = 'http://here.invalid';
  try {
    const url = new URL(to ?? '/', base);
    return url.origin === base && to?.startsWith('/') ? url.pathname + url.search : '/';
  } catch {
    return '/';
  }
}
