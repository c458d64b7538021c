import type { WholeLoop } from '~contracts/whole-loop';
import { nameApart } from './name-apart';

const row = (id: number, media: 'audio' | 'midi', packName: string, fileName: string, title = 'Tide Bass'): WholeLoop =>
  ({ id, title, packName, fileName, source: { media } }) as WholeLoop;
const sound = row(1, 'audio', 'Low Lantern', 'tide.wav');

test.each<[string, WholeLoop, string]>([
  ['its notes', row(2, 'midi', 'Low Lantern', 'tide.mid'), 'audio'],
  ['another pack’s', row(3, 'audio', 'Quay Street', 'tide.wav'), 'Low Lantern'],
  ['another take', row(4, 'audio', 'Low Lantern', 'tide 2.wav'), 'tide.wav'],
  ['the same file name twice', row(5, 'audio', 'Low Lantern', 'tide.wav'), 'number 1'],
  ['another name', row(6, 'midi', 'Low Lantern', 'x.mid', 'Ebb Bass'), ''],
])('beside %s', (_, other, expected) => expect(nameApart(sound, [sound, other])).toBe(expected));
test('one mark has to set it apart from all', () =>
  expect(nameApart(sound, [row(2, 'midi', 'Low Lantern', 'a'), row(3, 'audio', 'Quay Street', 'tide.wav')])).toBe('number 1'));
