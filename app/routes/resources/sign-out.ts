import { redirect } from 'react-router';
import { sessionCookie, sessionToken } from '~server/http/session.server';
import { signOut } from '~server/services/sessions.server';
import type { Route } from './+types/sign-out';

export async function action({ request }: Route.ActionArgs) {
  await signOut(await sessionToken(request));
  return redirect('/sign-in', { headers: { 'Set-Cookie': await sessionCookie('', 0, request) } });
}
