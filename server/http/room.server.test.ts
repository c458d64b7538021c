import type { SignedIn } from '../services/sessions.server';
import { roomProjectId, settleRoom } from './room.server';

const person = { id: 1, name: 'Ada Quill', role: 'member', projectId: 7 } as SignedIn;
/** Where a request is led, null for nowhere. */
function ledTo(address: string, init: RequestInit = {}): string | null {
  try {
    settleRoom(new Request(`http://here.test${address}`, init), person);
    return null;
  } catch (answer) {
    return (answer as Response).headers.get('Location');
  }
}

test('a page that says nothing of the room is led to one that does', () => {
  expect(ledTo('/people')).toBe('/people?in=7');
  expect(ledTo('/_.data?q=kick&_routes=a')).toBe('/?q=kick&in=7');
});
test('one that says it is left alone, and so is whoever sends something', () => {
  expect(['/people?in=3', '/?in=none', '/projects/5'].map((address) => ledTo(address))).toEqual([null, null, null]);
  expect(ledTo('/people', { method: 'POST', body: new URLSearchParams({ name: 'x' }) })).toBeNull();
  // What the framework asks the room with once a form was refused: no method and no body are left of it, but its headers.
  expect(ledTo('/people', { headers: { 'Content-Type': 'application/x-www-form-urlencoded' } })).toBeNull();
});
test('the project of the tab is what its address says, else the one before', () => {
  const idAt = (address: string) => roomProjectId(new Request(`http://here.test${address}`), person);
  expect([idAt('/?in=3'), idAt('/?in=none'), idAt('/packs')]).toEqual([3, null, 7]);
});
