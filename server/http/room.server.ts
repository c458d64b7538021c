import { redirect } from 'react-router';
import { inRoom, roomOf } from '~contracts/room-address';
import { pageAddress } from './page-address';
import type { SignedIn } from '../services/sessions.server';

/** The project in the room of the tab that asks: what its address says, else the one this person had last. */
export function roomProjectId(request: Request, { projectId }: SignedIn): number | null {
  const said = roomOf(new URL(request.url));
  return said === undefined ? projectId : said;
}

/** A page that is opened without a word about the room gets it into its address, so that what happens in other tabs leaves it alone. @throws a redirect */
export function settleRoom(request: Request, person: SignedIn): void {
  const url = new URL(request.url);
  if (request.method !== 'GET' || roomOf(url) !== undefined) return;
  // Behind a form that was refused the room is asked with the form's headers: it must not lead away from what is said of it.
  if (request.headers.has('Content-Type')) return;
  throw redirect(inRoom(pageAddress(url), person.projectId));
}
