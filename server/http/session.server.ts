import { data, redirect } from 'react-router';
import { config } from '../config.server';
import { findSignedIn, type SignedIn } from '../services/sessions.server';

const cookieName = 'garnetfinch';

export function sessionToken(request: Request): string | null {
  return new RegExp(`(?:^|; )${cookieName}=([A-Za-z0-9_-]{20,})`).exec(request.headers.get('Cookie') ?? '')?.[1] ?? null;
}

/** A cookie that scripts cannot read and other sites cannot send with their forms. */
export function sessionCookie(token: string, maxAgeSeconds: number, request: Request): string {
  // Behind a proxy the address is what the proxy was asked for, if the proxy is trusted.
  const secure = new URL(request.url).protocol === 'https:' || (config.publicUrl?.protocol ?? '') === 'https:';
  return `${cookieName}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${maxAgeSeconds}${secure ? '; Secure' : ''}`;
}

/** The person who asks. Pages send a stranger to sign in, and back afterwards. @throws a redirect */
export async function requirePerson(request: Request): Promise<SignedIn> {
  const person = await findSignedIn(sessionToken(request));
  if (person) return person;
  const url = new URL(request.url);
  throw redirect(`/sign-in?to=${encodeURIComponent(url.pathname.replace(/\.data$/, '') + url.search)}`);
}

/** The same for data and media: a stranger gets 401. @throws a response */
export async function requirePersonForData(request: Request): Promise<SignedIn> {
  const person = await findSignedIn(sessionToken(request));
  if (person) return person;
  throw new Response('Please sign in first.', { status: 401 });
}

/** The same for what only a keeper may do. @throws a response */
export async function requireKeeper(request: Request): Promise<SignedIn> {
  const person = await requirePersonForData(request);
  if (person.role !== 'keeper') throw data('Only a keeper can do that.', { status: 403 });
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
