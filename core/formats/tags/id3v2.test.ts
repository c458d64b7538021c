import { tagsFromId3 } from './embedded';
import { parseId3v2 } from './id3v2';

const letters = (text: string) => [...text].map((letter) => letter.charCodeAt(0)),
  frame = (id: string, text: string) => [...letters(id), 0, 0, text.length + 1, 0, ...letters(text)],
  tagOf = (frames: number[]) => Uint8Array.from([...letters('ID3'), 2, 0, 0, 0, 0, 0, frames.length, ...frames]);

test('frames of ID3v2.2 have three letters and no flags', () => {
  const tag = tagOf([...frame('TBP', '98'), ...frame('XYZ', 'nothing of ours'), ...frame('TKE', 'Eb'), ...frame('TT2', 'Low tide')]);
  expect(parseId3v2(tag)).toEqual({ TBPM: '98', TKEY: 'Eb', TIT2: 'Low tide' });
  expect(tagsFromId3(parseId3v2(tag))).toMatchObject({ tempoBpm: 98, key: { tonic: 3, mode: 'major' }, title: 'Low tide' });
});
test('a frame that claims more than the tag holds ends the reading', () => {
  const tag = tagOf([...frame('TBP', '98'), ...letters('TKE'), 0, 9, 9, 0]);
  expect(parseId3v2(tag)).toEqual({ TBPM: '98' });
});
