import type { Evidence } from './facts';
import { allParts, analyserVersion, outdatedParts, parts, partVersions, type Part } from './parts';
import { isSaidBy } from './said-by';

const bumped = (part: Part): Record<string, number> => ({ ...partVersions, [part]: partVersions[part] + 1 }),
  after = (part: Part): string[] => [...outdatedParts(partVersions, bumped(part))].sort();

test('what was heard by all of today’s parts is not heard again', () => {
  expect(outdatedParts(partVersions).size).toBe(0);
});
test('what no part has heard is heard whole, and so is what an unknown version heard', () => {
  expect(outdatedParts({})).toEqual(allParts);
  expect(outdatedParts(Object.fromEntries(parts.map((part) => [part, 0])))).toEqual(allParts);
});
test('a part that changes takes along what is told by it, and nothing else', () => {
  expect(after('levels')).toEqual(['levels']);
  expect(after('labels')).toEqual(['labels']);
  expect(after('fingerprint')).toEqual(['fingerprint']);
  expect(after('bars')).toEqual(['bars']);
  expect(after('key')).toEqual(['bars', 'key']);
  expect(after('kind')).toEqual(['bars', 'key', 'kind']);
  expect(after('names')).toEqual(['bars', 'key', 'names', 'rhythm']);
  expect(after('rhythm')).toEqual(after('names'));
  expect(after('instrument')).toEqual(['bars', 'instrument', 'key', 'kind', 'names', 'rhythm']);
});
test('an older version is as outdated as a newer one: code may be taken back', () => {
  expect([...outdatedParts(bumped('fingerprint'))]).toEqual(['fingerprint']);
});
test('the version of the whole grows with each part', () => {
  expect(analyserVersion).toBe(parts.reduce((sum, part) => sum + partVersions[part], 0));
  // Loops of before there were parts were heard by up to version 12.
  expect(analyserVersion).toBeGreaterThan(12);
});
test.each<[Evidence['source'], Evidence['attribute'], Part | null]>([
  ['file-name', 'tempo', 'names'],
  ['folder', 'instrument', 'names'],
  ['tag', 'key', 'names'],
  ['sound', 'tempo', 'rhythm'],
  ['sound', 'key', 'key'],
  ['notes', 'beats', 'rhythm'],
  ['notes', 'kind', 'kind'],
  ['sound', 'instrument', 'instrument'],
  ['person', 'tempo', null],
  ['set', 'key', null],
  ['pack', 'tempo', null],
])('what %s says of %s is given by %s', (source, attribute, owner) => {
  expect(parts.filter((part) => isSaidBy(new Set([part]), { source, attribute }))).toEqual(owner ? [owner] : []);
});
