import { redirect } from 'react-router';
import { findSignedIn, type SignedIn } from '../services/people.server';

const cookieName = 'garnetfinch';

export function sessionToken(request: Request): string | null {
  return new RegExp(`(?:^|; )${cookieName}=([A-Za-z0-9_-]{20,})`).exec(request.headers.get('Cookie') ?? '')?.[1] ?? null;
}

/** A cookie that scripts cannot read and other sites cannot send with their forms. */
export function sessionCookie(token: string, maxAgeSeconds: number, request: Request): string {
  const secure = new URL(request.url).protocol === 'https:' || request.headers.get('X-Forwarded-Proto') === 'https';
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
