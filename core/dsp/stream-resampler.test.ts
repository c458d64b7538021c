import { StreamResampler } from './stream-resampler';

const tone = (hz: number, rateHz: number, seconds: number) =>
  Float32Array.from({ length: Math.round(rateHz * seconds) }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rateHz));

function through(sound: Float32Array, fromHz: number, toHz: number, pieceFrames: number): Float32Array {
  const resampler = new StreamResampler(fromHz, toHz, 1),
    parts: Float32Array[] = [];
  for (let at = 0; at < sound.length; at += pieceFrames) parts.push(...resampler.push([sound.subarray(at, at + pieceFrames)]));
  parts.push(...resampler.finish());
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

test.each([
  [48000, 44100],
  [96000, 44100],
  [22050, 44100],
  [8000, 44100],
])('from %i to %i: a tone stays where it is, to −70 dB, and as long as it was', (fromHz, toHz) => {
  const out = through(tone(997, fromHz, 0.5), fromHz, toHz, 1000),
    wanted = tone(997, toHz, 0.5);
  expect(out.length).toBe(Math.round(0.5 * toHz));
  for (let i = 2000; i < out.length - 2000; i++)
    if (Math.abs(out[i] - wanted[i]) > 3e-4) throw new Error(`frame ${i}: ${out[i]} for ${wanted[i]}`);
});
test('how the pieces are cut changes nothing', () => {
  const sound = tone(440, 48000, 0.3),
    whole = through(sound, 48000, 44100, 1e6);
  for (const pieceFrames of [1, 77, 5000]) expect(through(sound, 48000, 44100, pieceFrames)).toEqual(whole);
});
test('what is above the new rate’s reach is gone', () => {
  const out = through(tone(30000, 96000, 0.2), 96000, 44100, 4096);
  expect(Math.max(...out.subarray(1000, out.length - 1000))).toBeLessThan(0.001);
});
test('two channels are made as each of them alone', () => {
  const left = tone(440, 48000, 0.3),
    right = tone(1234, 48000, 0.3),
    resampler = new StreamResampler(48000, 44100, 2),
    first = resampler.push([left, right]),
    last = resampler.finish();
  [left, right].forEach((side, channel) => expect([...first[channel], ...last[channel]]).toEqual([...through(side, 48000, 44100, 777)]));
});
test('rates that are none are refused', () => expect(() => new StreamResampler(0, 44100, 1)).toThrow(RangeError));
