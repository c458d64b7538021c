import { envelopeGain } from '~core/arrangement/envelope';
import { FakeGain, forgetSources, heard, installFakeAudio, largestStep, sources } from '../../test/audio/fake-audio';
import { cutVoice, startVoice } from './voices';

installFakeAudio();
beforeEach(forgetSources);

/** The audio thread's clock, which a test may move. */
const clock = { sampleRate: 44100, currentTime: 0 };
const voice = (changes: Partial<Parameters<typeof startVoice>[1]> = {}, nowFrame = 0) => {
  clock.currentTime = nowFrame / 44100;
  return startVoice(clock as BaseAudioContext, {
    id: 'v',
    buffer: { length: 88200, name: 'loop' } as unknown as AudioBuffer,
    into: new FakeGain() as unknown as AudioNode,
    startFrame: 1000,
    endFrame: 50000,
    offsetFrame: 88200 + 12,
    cyclic: true,
    fadeInFrames: 16,
    fadeOutFrames: 128,
    gainRatio: 0.5,
    ...changes,
  });
};

test('sounds between its fades, from the frame of its cycle', () => {
  voice();
  expect(sources[0]).toMatchObject({ startFrame: 1000, offsetFrame: 12, stopFrame: 50128 });
  expect([heard('loop', 999), heard('loop', 1016), heard('loop', 49999), heard('loop', 50064)]).toEqual([0, 0.5, 0.5, 0.25]);
});

describe('a clip that comes up and goes down', () => {
  const envelope = { startFrame: 1000, endFrame: 50000, fadeInFrames: 10000, fadeOutFrames: 20000 };
  test.each([1000, 4000, 11000, 31000])('sounds as it is mixed down, begun at frame %d', (startFrame) => {
    voice({ envelope, startFrame, fadeInFrames: 0 });
    for (let frame = startFrame; frame < 50000; frame += 500)
      expect(Math.abs(heard('loop', frame) - 0.5 * envelopeGain(envelope, frame))).toBeLessThan(1e-4);
  });
  test('also where the two overlap', () => {
    const both = { startFrame: 1000, endFrame: 21000, fadeInFrames: 15000, fadeOutFrames: 15000 };
    voice({ envelope: both, endFrame: 21000, fadeInFrames: 0 });
    for (let frame = 1000; frame < 21000; frame += 250)
      expect(Math.abs(heard('loop', frame) - 0.5 * envelopeGain(both, frame))).toBeLessThan(2e-3);
  });
});

test.each([
  ['in the middle', 20000],
  ['while it fades in', 1006],
  ['right after it has faded in', 1017],
])('cut %s, it fades from where it is', (_, frame) => {
  const cut = voice({ fadeInFrames: frame === 1006 ? 256 : 16 });
  cutVoice(cut, frame, 256, 44100);
  expect(largestStep(1001, frame + 300)).toBeLessThan(frame === 1006 ? 0.003 : 0.04);
  expect(largestStep(frame, frame + 300)).toBeLessThan(0.003);
  expect(heard('loop', frame + 256)).toBe(0);
  // It stops only when it is silent for sure.
  expect(sources[0].stopFrame).toBeGreaterThan(frame + 256);
});

test('cut without a fade in of its own, it fades all the same', () => {
  const cut = voice({ fadeInFrames: 0 });
  cutVoice(cut, 30000, 256, 44100);
  expect(heard('loop', 29999)).toBe(0.5);
  expect(heard('loop', 30128)).toBeCloseTo(0.25, 6);
  expect(largestStep(29000, 30300)).toBeLessThan(0.003);
});

test('cut before it begins, it is never heard', () => {
  const cut = voice({ startFrame: 40000 });
  cutVoice(cut, 30000, 256, 44100);
  expect(heard('loop', 45000)).toBe(0);
});

test.each([
  ['a sound', 20000, 16],
  ['one that fades in', 1100, 2000],
])('%s that is cut when its frame has passed already fades from now on, in its whole time', (_, frame, fadeInFrames) => {
  const cut = voice({ fadeInFrames });
  clock.currentTime = (frame + 900) / 44100;
  cutVoice(cut, frame, 256, 44100);
  expect(largestStep(frame, frame + 2000)).toBeLessThan(0.003);
  expect([heard('loop', frame + 900) > 0.2, heard('loop', frame + 900 + 128 + 256)]).toEqual([true, 0]);
});

test('what has begun since the cut was chosen is faded, not torn off', () => {
  const cut = voice({ startFrame: 20100, fadeInFrames: 16 });
  clock.currentTime = 20400 / 44100;
  cutVoice(cut, 20000, 256, 44100);
  expect(heard('loop', 20500)).toBe(0.5);
  expect(largestStep(20400, 21000)).toBeLessThan(0.003);
  expect(heard('loop', 20900)).toBe(0);
});

test('an end of its own that comes sooner than the cut stays as planned', () => {
  const own = voice();
  cutVoice(own, 49900, 256, 44100);
  expect(heard('loop', 49990)).toBe(0.5);
  expect(sources[0].stopFrame).toBe(50128);
});

test('asked for too late, it begins softly a moment ahead, at the place it would have reached', () => {
  voice({}, 1500);
  expect(sources[0]).toMatchObject({ startFrame: 1628, offsetFrame: 12 + 628 });
  expect([heard('loop', 1629) < 0.01, heard('loop', 1628 + 256)]).toEqual([true, 0.5]);
});
