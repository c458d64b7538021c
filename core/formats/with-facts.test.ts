import { aiffLayout, parseAiff } from './aiff/parse';
import { writeAiff } from './aiff/write';
import { bytesInMemory } from './byte-source';
import { parseFlacHeader } from './flac/streaminfo';
import { pageCrc } from './ogg/pages';
import { parseOgg } from './ogg/parse';
import { parseSmf } from './smf/parse';
import { writeSmf } from './smf/write';
import { tagsFromAiff, tagsFromId3, tagsFromVorbis, tagsFromWav } from './tags/embedded';
import type { FactsOut } from './tags/facts-out';
import { parseId3v2 } from './tags/id3v2';
import { parseWav, wavLayout } from './wav/parse';
import { writeWav } from './wav/write';
import { withFacts } from './with-facts';

const pcm = { sampleRateHz: 48_000, channels: [Float32Array.from({ length: 4801 }, (_, i) => 0.5 * Math.sin(i / 9))] },
  facts: FactsOut = {
    title: 'Låg ton, nr 3',
    tempoBpm: 97.25,
    key: { tonic: 6, mode: 'minor' },
    meter: '4/4',
    genre: 'Dub',
    author: 'Oda Veldkamp',
    confirmed: ['tempo'],
    comment: 'Fingered bass; from Tidewrack; free to use with the author’s name',
    loop: { startSeconds: 0.01, endSeconds: 0.1 },
  },
  said = { title: facts.title, tempoBpm: 97.25, key: facts.key, genre: 'Dub', confirmed: ['tempo'] };
const letters = (text: string) => [...text].map((letter) => letter.charCodeAt(0));

test('WAV: what is known is read back, the sound is as it was, and what was there beside it stays', () => {
  const before = writeWav(pcm, 'int24', { info: { ISFT: 'an old program', INAM: 'old' } }),
    after = withFacts(before, 'wav', facts),
    layout = wavLayout(bytesInMemory(after));
  expect(tagsFromWav(layout)).toMatchObject({ ...said, loopFrames: { startFrame: 480, endFrame: 4799 } });
  expect(layout.info).toMatchObject({ ISFT: 'an old program', IART: 'Oda Veldkamp' });
  // In letters of ASCII, as the standard has it.
  expect(layout.broadcast).toMatchObject({
    description: expect.stringMatching(/^Lag ton, nr 3; Fingered bass/),
    originator: 'Oda Veldkamp',
  });
  expect(parseWav(after).channels).toEqual(parseWav(before).channels);
  // Done twice it is the same.
  expect(withFacts(after, 'wav', facts)).toEqual(after);
});
test('WAV of what plays once keeps the marks that its vendor set', () => {
  const before = writeWav(pcm, 'int16', { sampler: { unityNote: 45, startFrame: 3, endFrame: 9 } });
  expect(wavLayout(bytesInMemory(withFacts(before, 'wav', { ...facts, loop: null }))).sampler).toMatchObject({
    unityNote: 45,
    loops: [{ startFrame: 3, endFrame: 9 }],
  });
});
test('AIFF: the same', () => {
  const before = writeAiff(pcm, 16),
    after = withFacts(before, 'aiff', facts);
  expect(tagsFromAiff(aiffLayout(bytesInMemory(after)))).toMatchObject(said);
  expect(parseAiff(after).channels).toEqual(parseAiff(before).channels);
  expect(withFacts(after, 'aiff', facts)).toEqual(after);
});
test('FLAC: comments are said anew, other blocks and all frames stay, padding goes', () => {
  const frames = [0xff, 0xf8, 1, 2, 3, 4],
    info = [0, 0, 0, 34, 16, 0, 16, 0, 0, 0, 0, 0, 0, 0, 0x0a, 0xc4, 0x42, 0xf0, 0, 0, 3, 0xe8, ...new Array<number>(16).fill(7)],
    picture = [6, 0, 0, 3, 9, 9, 9],
    padding = [0x81, 0, 0, 2, 0, 0],
    before = Uint8Array.from([...letters('fLaC'), ...info, ...picture, ...padding, ...frames]),
    after = withFacts(before, 'flac', facts),
    header = parseFlacHeader(after);
  expect(tagsFromVorbis(header.comments)).toMatchObject(said);
  expect([...after.subarray(header.framesFrom)]).toEqual(frames);
  expect(header.totalFrames).toBe(1000);
  expect(Buffer.from(after).includes(Buffer.from([6 | 0x80, 0, 0, 3, 9, 9, 9]))).toBe(true);
  expect(withFacts(after, 'flac', facts)).toEqual(after);
});
test('MP3: an ID3v2.4 tag in the place of the old one', () => {
  const sound = [0xff, 0xfb, 0x90, 0, 1, 2, 3],
    old = [...letters('ID3'), 3, 0, 0, 0, 0, 0, 4, 1, 2, 3, 4],
    after = withFacts(Uint8Array.from([...old, ...sound]), 'mp3', facts);
  expect(tagsFromId3(parseId3v2(after))).toMatchObject(said);
  expect([...after.subarray(after.length - sound.length)]).toEqual(sound);
  expect(withFacts(after, 'mp3', facts)).toEqual(after);
});
test('MIDI: what the file does not say is put in front, what it says stays', () => {
  const note = { startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 90, channel: 0 },
    silent = writeSmf({ notes: [note], lengthBeats: 4 }),
    after = parseSmf(withFacts(silent, 'midi', facts));
  expect(after.tempoBpm).toBeCloseTo(97.25, 2);
  expect(after.notes).toEqual(parseSmf(silent).notes);
  const spoken = writeSmf({ notes: [note], lengthBeats: 4, tempoBpm: 120, name: 'Own', keySignature: { sharps: 0, minor: false } });
  expect(withFacts(spoken, 'midi', facts)).toEqual(spoken);
});
test('what is no such file, or is cut off, comes out as it went in', () => {
  const cut = writeWav(pcm, 'int16').subarray(0, 100);
  expect(withFacts(cut, 'wav', facts)).toBe(cut);
  const none = Uint8Array.from([1, 2, 3]);
  expect(withFacts(none, 'midi', facts)).toBe(none);
  expect(withFacts(none, 'ogg', facts)).toBe(none);
});
test('WAV of a recorder keeps what the recorder wrote of itself', () => {
  const own = new Uint8Array(602);
  own.set(letters('Scene 4, take 2'));
  const plain = writeWav(pcm, 'int16'),
    chunk = [...letters('bext'), 602 & 255, 602 >> 8, 0, 0, ...own],
    before = Uint8Array.from([...plain.subarray(0, 12), ...chunk, ...plain.subarray(12)]);
  new DataView(before.buffer).setUint32(4, before.length - 8, true);
  expect(wavLayout(bytesInMemory(withFacts(before, 'wav', facts))).broadcast?.description).toBe('Scene 4, take 2');
});
test.each(['vorbis', 'opus'] as const)('Ogg %s: comments are said anew, however long, and every packet of sound stays', (coding) => {
  const isOpus = coding === 'opus',
    head = isOpus
      ? [...letters('OpusHead'), 1, 1, 0, 0, 0x80, 0xbb, 0, 0, 0, 0, 0]
      : [1, ...letters('vorbis'), 0, 0, 0, 0, 1, 0x44, 0xac, 0, 0, ...new Array<number>(14).fill(0)],
    old = [
      ...(isOpus ? letters('OpusTags') : [3, ...letters('vorbis')]),
      0,
      0,
      0,
      0,
      1,
      0,
      0,
      0,
      6,
      0,
      0,
      0,
      ...letters('MOOD=x'),
      ...(isOpus ? [] : [1]),
    ],
    setup = isOpus ? [] : [new Array<number>(700).fill(5)],
    sound = [7, 8, 9, 10],
    page = (flags: number, number: number, granule: number, packets: readonly (readonly number[])[]) => {
      const lengths = packets.flatMap((packet) => [...new Array<number>(Math.floor(packet.length / 255)).fill(255), packet.length % 255]),
        bytes = Uint8Array.from([
          ...letters('OggS'),
          0,
          flags,
          granule,
          0,
          0,
          0,
          0,
          0,
          0,
          0,
          1,
          2,
          3,
          4,
          number,
          0,
          0,
          0,
          0,
          0,
          0,
          0,
          lengths.length,
          ...lengths,
          ...packets.flat(),
        ]);
      new DataView(bytes.buffer).setUint32(22, pageCrc(bytes), true);
      return [...bytes];
    },
    before = Uint8Array.from([
      ...page(2, 0, 0, [head]),
      ...page(0, 1, 0, [old, ...setup]),
      ...page(0, 2, 90, [sound, sound]),
      ...page(4, 3, 99, [sound]),
    ]);
  for (const comment of [facts.comment, 'long '.repeat(20_000)]) {
    const after = withFacts(before, 'ogg', { ...facts, comment }),
      header = parseOgg(after);
    expect(header).toMatchObject({ coding, complete: true, totalFrames: 99 });
    expect(header.comments.MOOD).toBe('x');
    if (comment.length < 100) {
      expect(tagsFromVorbis(header.comments)).toMatchObject(said);
      expect(withFacts(after, 'ogg', facts)).toEqual(after);
    }
    // The pages of sound hold what they held, under new numbers and checks.
    const pages: Uint8Array[] = [];
    for (let at = 0; at < after.length;) {
      const count = after[at + 26],
        end = at + 27 + count + after.subarray(at + 27, at + 27 + count).reduce((sum, length) => sum + length, 0);
      pages.push(after.slice(at, end));
      at = end;
    }
    pages.forEach((each, k) => {
      const view = new DataView(each.buffer);
      expect(view.getUint32(18, true)).toBe(k);
      const crc = view.getUint32(22, true);
      view.setUint32(22, 0, true);
      expect(pageCrc(each)).toBe(crc);
    });
    expect(pages.slice(-2).map((each) => [...each.subarray(27 + each[26])])).toEqual([[...sound, ...sound], sound]);
  }
});
test('Ogg of two streams, or cut off, comes out as it went in', () => {
  const two = Uint8Array.from([
    ...letters('OggS'),
    0,
    2,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    1,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    1,
    30,
    ...new Array<number>(10).fill(1),
  ]);
  expect(withFacts(two, 'ogg', facts)).toBe(two);
});
