import { bytesInMemory } from '../byte-source';
import { FormatError } from '../errors';
import { tagsFromWav } from '../tags/embedded';
import { parseWav, wavLayout } from './parse';

const letters = (text: string) => [...text].map((letter) => letter.charCodeAt(0)),
  u16 = (value: number) => [value & 255, (value >> 8) & 255],
  u32 = (value: number) => [...u16(value & 0xffff), ...u16(value >>> 16)],
  padded = (text: string, bytes: number) => [...letters(text), ...new Array<number>(bytes).fill(0)].slice(0, bytes);

interface Shape {
  readonly bits?: number;
  readonly channels?: number;
  /** What the header says of the sound's bytes; left out: the truth. */
  readonly saidBytes?: number;
  readonly riffBytes?: number;
}
const chunk = (id: string, body: number[], { pad = true, said = body.length } = {}): number[] => [
  ...letters(id),
  ...u32(said),
  ...body,
  ...(pad && body.length % 2 ? [0] : []),
];
/** A WAV file by hand. @param before chunks between the header and the sound */
function wavOf(data: number[], { bits = 16, channels = 1, saidBytes, riffBytes }: Shape = {}, before: number[] = []): Uint8Array {
  const block = channels * Math.ceil(bits / 8),
    fmt = chunk('fmt ', [...u16(1), ...u16(channels), ...u32(44100), ...u32(44100 * block), ...u16(block), ...u16(bits)]),
    body = [...letters('WAVE'), ...fmt, ...before, ...chunk('data', data, { said: saidBytes ?? data.length, pad: false })];
  return Uint8Array.from([...letters('RIFF'), ...u32(riffBytes ?? body.length), ...body]);
}
const words = (before: number[]) => wavLayout(bytesInMemory(wavOf([0, 0], {}, before)));

test('12 and 20 bits lie at the upper end of their bytes (RIFF MCI 1991)', () => {
  // +½ and −½ of full scale.
  expect([...parseWav(wavOf([...u16(0x4000), ...u16(0xc000)], { bits: 12 })).channels[0]]).toEqual([0.5, -0.5]);
  expect([...parseWav(wavOf([0, 0, 0x40, 0, 0, 0xc0], { bits: 20 })).channels[0]]).toEqual([0.5, -0.5]);
});
test('a streamed file, whose sizes nobody went back to fill in, is read to its end', () => {
  const data = [...u16(1), ...u16(2), ...u16(3)];
  for (const [saidBytes, riffBytes] of [
    [0, 0],
    [0xffffffff, 0xffffffff],
    [0, 0xffffffff],
  ])
    expect(parseWav(wavOf(data, { saidBytes, riffBytes })).channels[0]).toHaveLength(3);
});
test('one whose file size is right and whose sound claims too much is cut off', () => {
  expect(() => parseWav(wavOf(u16(1), { saidBytes: 0xffffffff }))).toThrow(FormatError);
});
test('an odd chunk whose padding was forgotten costs nothing', () => {
  const odd = [1, 2, 3];
  for (const pad of [true, false]) expect(parseWav(wavOf(u16(0x4000), {}, chunk('JUNK', odd, { pad }))).channels[0][0]).toBe(0.5);
});
test('`bext` (EBU Tech 3285): description, originator, date', () => {
  const body = [...padded('Rimshots, dry', 256), ...padded('Slate Yard', 32), ...padded('ref', 32), ...padded('2026:03:01', 10)],
    { broadcast } = words(chunk('bext', [...body, ...new Array<number>(602 - body.length).fill(0)]));
  expect(broadcast).toEqual({ description: 'Rimshots, dry', originator: 'Slate Yard', date: '2026-03-01' });
});
test('`inst`, `cue ` and `iXML`', () => {
  expect(words(chunk('inst', [45, 0, 0, 0, 127, 1, 127])).instrumentNote).toBe(45);
  const cue = (frame: number) => [...u32(1), ...u32(0), ...letters('data'), ...u32(0), ...u32(0), ...u32(frame)];
  expect(words(chunk('cue ', [...u32(2), ...cue(900), ...cue(20)])).cueFrames).toEqual([20, 900]);
  // What promises more marks than there are is believed as far as it goes.
  expect(words(chunk('cue ', [...u32(0xffffffff), ...cue(7)])).cueFrames).toEqual([7]);
  expect(words(chunk('iXML', letters('<BWFXML><PROJECT>Harbour &amp; Sons</PROJECT><TAKE>3</TAKE></BWFXML>'))).ixml).toEqual({
    PROJECT: 'Harbour & Sons',
    TAKE: '3',
  });
});
test('an `id3 ` chunk has a place for tempo and key; a sampler’s pitch is kept unless it is what programs write that don’t know', () => {
  const frame = (id: string, text: string) => [...letters(id), 0, 0, 0, text.length + 1, 0, 0, 3, ...letters(text)],
    frames = [...frame('TBPM', '104'), ...frame('TKEY', 'F#m'), ...frame('TCON', 'Dub')],
    id3 = [...letters('ID3'), 4, 0, 0, 0, 0, 0, frames.length, ...frames];
  expect(tagsFromWav(words(chunk('id3 ', id3)))).toMatchObject({ tempoBpm: 104, key: { tonic: 6, mode: 'minor' }, genre: 'Dub' });
  const note = (value: number) => tagsFromWav(words(chunk('inst', [value, 0, 0, 0, 127, 1, 127, 0]))).unityNote;
  expect([note(45), note(60)]).toEqual([45, null]);
});
