import { setRoleOf, setRoles, setStem } from './set-role';

test.each([
  ['Groove A1 120 bpm.wav', null],
  ['Groove A2 120 bpm.wav', 'variation'],
  ['Groove B1.wav', 'variation'],
  ['Groove Fill 2.wav', 'fill'],
  ['Groove_Ending.wav', 'ending'],
  ['Groove Intro.wav', 'intro'],
  ['Groove Full.wav', 'full'],
  ['Groove No Kick.wav', 'no-kick'],
  ['Groove No Bass.wav', 'thin'],
  ['Walk Verse 2.wav', 'verse'],
  ['Walk Hook.wav', 'chorus'],
  ['Guitar DI.wav', 'di'],
  ['Guitar Mic 2.wav', 'mic'],
  ['Kit Overheads.wav', 'mic'],
  ['Song Stem 3.wav', 'stem'],
  ['Bass Take 4.wav', 'take'],
  ['Landfill.wav', null],
  ['The End of the Line.wav', null],
  ['.wav', null],
])('%s is %p', (name, role) => expect(setRoleOf(name)).toBe(role));
test('each role is found by a name of its own', () => {
  const names = [
    'full',
    'no kick',
    'tops',
    'thin',
    'verse 1',
    'chorus',
    'bridge',
    'fill',
    'intro',
    'outro',
    'di',
    'room',
    'stem 2',
    'take 3',
    'var 2',
  ];
  expect(names.map((name) => setRoleOf(`x ${name}`))).toEqual(Object.keys(setRoles));
});
test.each([
  ['Drums/TRK_Piston_124_A1.wav', 'trk piston 124'],
  ['Drums/TRK_Piston_124_Fill.wav', 'trk piston 124'],
  ['Drums/TRK_Piston_124_No Kick.wav', 'trk piston 124'],
  ['Groove A 96bpm.wav', 'groove'],
  ['Pack/Night Groove/Intro.wav', 'night groove'],
  ['Pack/Night Groove/A1.wav', 'night groove'],
  ['Pack/Loops/Intro.wav', null],
  ['Intro.wav', null],
  ['DrumLoop 07.wav', null],
  ['Pack/Night Groove/Shaker.wav', null],
])('the set of %s is %p', (path, stem) => expect(setStem(path)).toBe(stem));
