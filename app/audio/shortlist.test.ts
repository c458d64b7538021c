import { noOverrides } from '~core/arrangement/fit-settings';
import type { WholeLoop } from '~contracts/whole-loop';
import { createRandom } from '../../core/synth/random';
import { digitOf, drop, emptyShortlist, entryAt, hide, keep, note, shortlistPlaces, type Shortlist } from './shortlist';

const request = (id: number, shiftSemitones = 0) => ({
  row: { id, title: `Loop ${id}` } as WholeLoop,
  overrides: { ...noOverrides, shiftSemitones },
  offsetBeats: 0,
});
const listOf = (...ids: number[]): Shortlist => ids.reduce((list, id) => keep(list, request(id)).list, emptyShortlist);

test('digits count from 1 in the order of keeping', () => {
  const list = listOf(7, 3, 9);
  expect([1, 2, 3].map((digit) => entryAt(list, digit)?.row.id)).toEqual([7, 3, 9]);
  expect(entryAt(list, 4)).toBeNull();
  expect(digitOf(list, 9)).toBe(3);
  expect(digitOf(list, 1)).toBeNull();
});

test('there are eight places; the ninth is refused and nothing is lost', () => {
  const full = listOf(1, 2, 3, 4, 5, 6, 7, 8),
    ninth = keep(full, request(9));
  expect(full.entries).toHaveLength(shortlistPlaces);
  expect(ninth).toEqual({ list: full, full: true });
});

test('keeping a loop again takes what is done to it now, in its old place, with its note', () => {
  const list = keep(note(listOf(1, 2), 1, 'warm'), request(1, -12)).list;
  expect(list.entries.map((entry) => entry.row.id)).toEqual([1, 2]);
  expect(list.entries[0]).toMatchObject({ note: 'warm', overrides: { shiftSemitones: -12 } });
});

test('blind: every entry is under some digit, names come back when one is added or dropped', () => {
  const list = hide(listOf(1, 2, 3, 4, 5), true, createRandom(4));
  expect(list.blind).not.toBeNull();
  expect([1, 2, 3, 4, 5].map((digit) => entryAt(list, digit)?.row.id).sort()).toEqual([1, 2, 3, 4, 5]);
  for (const id of [1, 2, 3, 4, 5]) expect(entryAt(list, digitOf(list, id) ?? 0)?.row.id).toBe(id);
  expect(keep(list, request(6)).list.blind).toBeNull();
  expect(drop(list, 3)).toMatchObject({ blind: null, entries: [{}, {}, {}, {}] });
  expect(hide(list, false, createRandom(1)).blind).toBeNull();
});

test('blind orders differ: over many shuffles of three, each order comes up', () => {
  const random = createRandom(9),
    orders = new Set(Array.from({ length: 200 }, () => hide(listOf(1, 2, 3), true, random).blind?.join('')));
  expect(orders.size).toBe(6);
});
