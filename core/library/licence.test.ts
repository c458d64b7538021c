import { clearanceOf, licenceAllows, licencesAllow } from './licence';

test.each([
  ['Royalty-free, cleared for broadcast', true, true, true],
  ['Royalty-free with credit', true, false, true],
  ['Non-commercial unless licensed', false, null, null],
  ['CC BY-NC-ND 4.0', false, false, false],
  ['CC0, public domain', true, true, true],
  ['Ours, within the group', null, null, null],
  ['', null, null, null],
])('“%s” allows commercial work: %p, use without credit: %p, changing it: %p', (text, commercial, uncredited, changed) =>
  expect([licenceAllows(text, 'commercial'), licenceAllows(text, 'uncredited'), licenceAllows(text, 'changed')]).toEqual([
    commercial,
    uncredited,
    changed,
  ]),
);
test('of several licences the strictest counts, and silence is no yes', () => {
  const free = 'Royalty-free',
    closed = 'Non-commercial';
  expect(licencesAllow([free, free], 'commercial')).toBe(true);
  expect(licencesAllow([free, ''], 'commercial')).toBeNull();
  expect(licencesAllow([closed, ''], 'commercial')).toBe(false);
  expect(licencesAllow([], 'commercial')).toBeNull();
});
test.each([
  [['Royalty-free'], { isClear: true, wantsCredit: false, words: '' }],
  [['Royalty-free with credit'], { isClear: true, wantsCredit: true, words: '' }],
  [['Royalty-free', 'Non-commercial unless licensed'], { isClear: false, wantsCredit: false, words: 'not for commercial work' }],
  [['Any use, unaltered'], { isClear: false, wantsCredit: false, words: 'must not be changed' }],
  [['Ours, within the group'], { isClear: null, wantsCredit: false, words: 'says nothing of commercial work' }],
  [['Royalty-free', ''], { isClear: null, wantsCredit: false, words: 'no licence stated' }],
])('a loop under %j', (texts, expected) => expect(clearanceOf(texts)).toEqual(expected));
