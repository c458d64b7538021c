import { setRoleOf, setRoles } from './set-role';

test.each([
  ['Groove A1 120 bpm.wav', null],
  ['Groove A2 120 bpm.wav', 'variation'],
  ['Groove B1.wav', 'variation'],
  ['Groove Fill 2.wav', 'fill'],
  ['Groove_Ending.wav', 'ending'],
  ['Groove Intro.wav', 'intro'],
  ['Groove Full.wav', 'full'],
  ['Groove No Kick.wav', 'thin'],
  ['Landfill.wav', null],
  ['The End of the Line.wav', null],
  ['.wav', null],
])('%s is %p', (name, role) => expect(setRoleOf(name)).toBe(role));
test('each role is found by a name of its own', () => {
  const found = ['x full', 'x thin', 'x var 2', 'x fill', 'x intro', 'x outro'].map(setRoleOf);
  expect(found).toEqual(Object.keys(setRoles));
});
