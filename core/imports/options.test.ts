import { isLeftOut, namesOf } from './options';

test('names are parted by commas and lines, each once', () => {
  expect(namesOf(' Night, rain,,night\nLow tide ')).toEqual(['night', 'rain', 'low tide']);
  expect(namesOf('')).toEqual([]);
  expect(namesOf(Array.from({ length: 50 }, (_, k) => `t${k}`).join(','))).toHaveLength(20);
});
test.each([
  ['Pack/MIDI Files/a.mid', ['midi files'], true],
  ['Pack/Midi files/deep/a.wav', ['midi files'], true],
  ['MIDI Files.wav', ['midi files'], false],
  ['Pack/MIDI Files 2/a.wav', ['midi files'], false],
  ['Pack/a.MID', ['.mid'], true],
  ['Pack/a.midi', ['.mid'], false],
  ['Pack/Démos/a.wav', ['demos'], true],
  ['Pack/a.wav', [], false],
])('%s without %j: %s', (path, leaveOut, expected) => expect(isLeftOut(path, leaveOut)).toBe(expected));
