import type { FakeGain } from '../../test/audio/fake-audio';
import { installFakeAudio } from '../../test/audio/fake-audio';
import { FadeGate } from './fade-gate';

installFakeAudio();
/** A gate, and the audio thread's clock, at which it is told to close. */
const made = () => {
  const context = { currentTime: 0 },
    gate = new FadeGate(context as BaseAudioContext),
    close = (frame: number, fadeFrames: number, nowFrame: number) => {
      context.currentTime = nowFrame / 44100;
      gate.close(frame, fadeFrames);
    };
  return { gate, close, at: (frame: number) => (gate.node as unknown as FakeGain).gain.valueAt(frame) };
};

test('stands open unless it is told to open later', () => {
  const { at } = made();
  expect(at(0)).toBe(1);
  const later = made();
  later.gate.open(1000, 128);
  expect([999, 1064, 1128].map(later.at)).toEqual([0, expect.closeTo(Math.SQRT1_2, 3), 1]);
});

test('two doors that cross over keep the power', () => {
  const out = made(),
    next = made();
  next.gate.open(5000, 128);
  out.close(5000, 128, 0);
  for (let frame = 4990; frame <= 5140; frame++) expect(out.at(frame) ** 2 + next.at(frame) ** 2).toBeCloseTo(1, 2);
});

test('a plan to close can be moved, later or sooner, until it has begun', () => {
  const { gate, close, at } = made();
  close(5000, 256, 0);
  close(9000, 256, 1000);
  expect([at(5300), at(8999), at(9300)]).toEqual([1, 1, expect.closeTo(0, 6)]);
  close(3000, 256, 2000);
  expect(at(3300)).toBeCloseTo(0, 6);
  expect(gate.closesFrame).toBe(3000);
  close(7000, 256, 3100);
  expect(gate.closesFrame).toBe(3000);
  expect(at(6000)).toBeCloseTo(0, 6);
});

test('told to close while it opens, it opens first: nothing jumps', () => {
  const { gate, close, at } = made();
  gate.open(1000, 256);
  close(1100, 256, 900);
  let step = 0;
  for (let frame = 901; frame < 2000; frame++) step = Math.max(step, Math.abs(at(frame) - at(frame - 1)));
  expect(step).toBeLessThan(0.01);
  expect(at(1600)).toBeCloseTo(0, 6);
});
