import { createRandom } from '../synth/random';
import { projectRateHz } from '../units/time';
import type { BenchSound } from './bench-sound';
import { gridFrameNear, gridMoves, toGrid, type GridStep } from './to-grid';

const grid: GridStep = { kind: 'grid', strength: 1, stepsPerBeat: 4, swing: 0.5, byHand: [], keeps: 'hits' };

/** Hits of a bar of sixteenths, played with a deviation of up to three sigma; each a burst that falls, and where each truly begins. */
function played(seed: number, sigmaMs: number, tempoBpm: number): { sound: BenchSound; trueFrames: number[]; lines: number[] } {
  const random = createRandom(seed),
    normal = () => Math.max(-3, Math.min(3, Math.sqrt(-2 * Math.log(random() + 1e-9)) * Math.cos(2 * Math.PI * random()))),
    step = ((60 / tempoBpm) * projectRateHz) / 4,
    total = Math.round(16 * step),
    plane = new Float32Array(total),
    lines: number[] = [],
    trueFrames: number[] = [];
  for (let k = 0; k < 16; k++) {
    if (random() < 0.35) continue;
    const line = k * step,
      at = Math.round(Math.max(60, line + (normal() * sigmaMs * projectRateHz) / 1000));
    lines.push(line);
    trueFrames.push(at);
    const level = 0.2 + 0.6 * random();
    for (let i = 0; i < 4000 && at + i < total; i++) plane[at + i] += level * Math.exp(-i / 700) * (random() * 2 - 1);
  }
  const sound = { channels: [plane], tempoBpm, beats: 4, barBeats: 4, key: null, startFrame: 0, onsetFrames: trueFrames, isCycle: true };
  return { sound, trueFrames, lines };
}

/** Where a hit begins near a frame, by the level alone: the first frame that is a third as loud as the loudest around. */
function attackNear(plane: Float32Array, frame: number): number {
  const from = Math.round(frame) - 900,
    at = (i: number) => Math.abs(plane[(i + plane.length) % plane.length]);
  let top = 0;
  for (let i = from; i < from + 1800; i++) top = Math.max(top, at(i));
  for (let i = from; i < from + 1800; i++) if (at(i) > top / 3) return i;
  return NaN;
}

test('the nearest line of the grid, straight and swung', () => {
  expect(gridFrameNear(5200, 20_000, 4, 0.5)).toBe(5000);
  expect(gridFrameNear(12_000, 20_000, 2, 0.5)).toBe(10_000);
  // Swung as triplets the second of two eighths lies at two thirds of the beat.
  expect(gridFrameNear(12_000, 20_000, 2, 2 / 3)).toBeCloseTo(13_333.3, 0);
  expect(gridFrameNear(19_000, 20_000, 2, 2 / 3)).toBe(20_000);
});

const takes = Array.from({ length: 60 }, (_, k) => ({ seed: k + 1, sigmaMs: 4 + (k % 5) * 4, tempoBpm: 80 + (k % 7) * 12 }));

test('sixty loops of a player: at 100 % at least 95 of a hundred hits lie within 2 ms of the grid, at 50 % half-way', () => {
  let [near, half, count] = [0, 0, 0];
  for (const { seed, sigmaMs, tempoBpm } of takes) {
    const { sound, trueFrames, lines } = played(seed, sigmaMs, tempoBpm),
      whole = toGrid(sound, grid).channels[0],
      halfWay = gridMoves(sound, sound.channels[0].length, { ...grid, strength: 0.5 });
    for (const [k, line] of lines.entries()) {
      // What is more than half a step off belongs to another line.
      const step = ((60 / tempoBpm) * projectRateHz) / 4;
      if (Math.abs(trueFrames[k] - line) > step / 2) continue;
      count++;
      if (Math.abs(attackNear(whole, line) - line) < 0.002 * projectRateHz) near++;
      if (Math.abs(halfWay[k].toFrame - (trueFrames[k] + line) / 2) <= 1) half++;
    }
  }
  expect(count).toBeGreaterThan(400);
  expect(near / count).toBeGreaterThanOrEqual(0.95);
  expect(half / count).toBeGreaterThanOrEqual(0.95);
});

test('attacks are unharmed: no louder than 3 dB more, level within 1.5 dB, the length exact', () => {
  for (const { seed, sigmaMs, tempoBpm } of takes.slice(0, 20)) {
    const { sound } = played(seed, sigmaMs, tempoBpm),
      [made] = toGrid(sound, grid).channels,
      [source] = sound.channels,
      peak = (plane: Float32Array) => plane.reduce((most, value) => Math.max(most, Math.abs(value)), 0),
      power = (plane: Float32Array) => plane.reduce((sum, value) => sum + value * value, 0);
    expect(made.length).toBe(source.length);
    expect(20 * Math.log10(peak(made) / peak(source))).toBeLessThan(3);
    expect(Math.abs(10 * Math.log10(power(made) / power(source)))).toBeLessThan(1.5);
    expect(made.every(Number.isFinite)).toBe(true);
  }
});

test('a hit that is moved by hand goes there, whatever the grid says', () => {
  const { sound, trueFrames } = played(5, 12, 100),
    moves = gridMoves(sound, sound.channels[0].length, {
      ...grid,
      strength: 0,
      byHand: [{ fromFrame: trueFrames[1], toFrame: trueFrames[1] + 900 }],
    });
  expect(moves[1].toFrame - trueFrames[1]).toBe(900);
  expect(moves[2].toFrame).toBe(trueFrames[2]);
});
test('without a tempo, or at 0 %, it stays what it is', () => {
  const { sound } = played(5, 12, 100);
  expect(toGrid({ ...sound, tempoBpm: null }, grid).channels[0]).toBe(sound.channels[0]);
  expect(toGrid(sound, { ...grid, strength: 0 }).channels[0]).toBe(sound.channels[0]);
});
