import { aiffLayout, parseAiff } from './aiff/parse';
import { writeAiff } from './aiff/write';
import { bytesInMemory } from './byte-source';
import { parseFlacHeader } from './flac/streaminfo';
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
