import { clearanceOf, licenceAllows, licencesAllow } from './licence';

test.each([
  ['Royalty-free, cleared for broadcast', true, true, true],
  ['Royalty-free with credit', true, false, true],
  ['Non-commercial unless licensed', false, null, null],
  ['CC BY-NC-ND 4.0', false, false, false],
  ['CC BY 4.0', true, false, true],
  ['CC BY-SA 4.0', true, false, true],
  ['CC BY-ND', true, false, false],
  ['CC0, public domain', true, true, true],
  ['Ours, within the group', null, null, null],
  ['', null, null, null],
  ['Commercial use not allowed', false, null, null],
  ['Commercial use is prohibited', false, null, null],
  ['Commercial use only with permission', false, null, null],
  ['Commercial use requires a separate licence', false, null, null],
  ['Commercial use requires credit', true, null, null],
  ['Commercial licences are available on request', false, null, null],
  ['May not be used commercially', false, null, null],
  ['No restrictions on commercial use', true, null, null],
  ['Not only for commercial work', true, null, null],
  ['Free for personal use', false, null, null],
  ['Free for personal and commercial use', true, null, null],
  ['Editorial use only', false, null, null],
  ['Not for broadcast', false, null, null],
  ['All rights reserved', null, null, null],
  ['Royalty-free; not to be resold unaltered', true, true, true],
  ['Royalty-free. May not be redistributed or sold as loops, unaltered', true, true, true],
  ['Any use, unaltered', true, null, false],
  ['Any use, must not be altered', true, null, false],
  ['Any use, no remixes', true, null, false],
  ['Any use, may be edited and remixed', true, null, true],
  ['Any work; must be credited', true, false, null],
  ['Any work; attribution not required', true, true, null],
  ['Any work, without attribution', true, true, null],
  ['Any work; credit appreciated', true, true, null],
  ['Please credit the maker', null, false, null],
  ['No attribution needed', null, true, null],
  ['Attribution required', null, false, null],
  ['Film and broadcast, credits are required', true, false, null],
  ['Noncommercial', false, null, null],
  ['Non-commercial only', false, null, null],
  ['Non-commercial licence', false, null, null],
  ['No commercial licence', false, null, null],
  ['Royalty-free · Non-commercial only', false, true, true],
  ['Not for commercial use without permission', false, null, null],
  ['No fee for commercial use', true, null, null],
  ['Do not use in films', false, null, null],
  ['Free to use; no derivatives', true, null, false],
  ['Free to use with the author’s name', true, false, null],
  ['Free for what is not sold; ask the author for the rest', false, null, null],
  ['Royalty-free once taken, also in sold music', true, true, true],
  ['Royalty-free, not to be sold as loops', true, true, true],
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
