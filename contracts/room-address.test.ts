import { inRoom, roomOf } from './room-address';

const at = (address: string) => roomOf(new URL(address, 'http://here.test'));

test('an address says which project is in the room, that none is, or nothing', () => {
  expect(at('/?in=7')).toBe(7);
  expect(at('/loops/3.data?in=none')).toBeNull();
  for (const silent of ['/', '/?in=', '/?in=x', '/?in=-1', '/?in=99999999999', '/projects']) expect(at(silent)).toBeUndefined();
});
test('the page of a project has its own in the room, whatever else is said', () => {
  expect(at('/projects/12?in=7')).toBe(12);
  expect(at('/projects/12.data')).toBe(12);
});
test('what is put into an address comes out of it, and nothing else of it is lost', () => {
  for (const to of ['/', '/?q=kick&pack=3', '/loops/3', '?fact=key', '/packs/ear?fact=key&in=4'])
    for (const id of [null, 1, 998]) {
      const made = new URL(inRoom(to, id), 'http://here.test/packs/ear'),
        before = new URL(to, 'http://here.test/packs/ear');
      expect(roomOf(made)).toBe(id);
      expect(made.pathname).toBe(before.pathname);
      for (const [key, value] of before.searchParams) if (key !== 'in') expect(made.searchParams.get(key)).toBe(value);
    }
  expect(inRoom('/projects/3', 7)).toBe('/projects/3');
});
