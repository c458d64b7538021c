import type { Schedule, SoundEvent } from '../arrangement/schedule';
import { emptyProject, type Project, type Track } from '../arrangement/tree';
import { dbToRatio } from '../units/level';
import { plainTrack as track } from '../../test/generators/track';
import { renderMix } from './render';

const project = (tracks: Track[], masterGainDb = 0): Project => ({ ...emptyProject('Mix', 120, null), tracks, masterGainDb });
const event = (changes: Partial<SoundEvent> = {}): SoundEvent => ({
  id: 'e',
  trackId: 't',
  bufferKey: 'b',
  startFrame: 10,
  endFrame: 20,
  offsetFrame: 0,
  cyclic: true,
  fadeInFrames: 0,
  fadeOutFrames: 0,
  gainRatio: 1,
  ...changes,
});
const schedule = (events: SoundEvent[], endFrame = 40): Schedule => ({ events, requests: new Map(), endFrame });
const ramp = Float32Array.from({ length: 8 }, (_, i) => i + 1);
const mix = (events: SoundEvent[], tracks = [track()], masterGainDb = 0, buffers = new Map([['b', [ramp, ramp]]])) =>
  renderMix(project(tracks, masterGainDb), schedule(events), buffers);

test('an event sounds from its first frame to its last, and its buffer goes round', () => {
  const { channels, peakDbfs } = mix([event()]);
  expect([...channels[0]].slice(8, 22)).toEqual([0, 0, 1, 2, 3, 4, 5, 6, 7, 8, 1, 2, 0, 0]);
  expect(channels[1]).toEqual(channels[0]);
  expect(peakDbfs).toBeCloseTo(20 * Math.log10(8), 5);
});
test('what plays once ends with its buffer', () =>
  expect([...mix([event({ cyclic: false })]).channels[0]].slice(16, 22)).toEqual([7, 8, 0, 0, 0, 0]));
test('an event may begin inside its buffer', () =>
  expect([...mix([event({ offsetFrame: 6 })]).channels[0]].slice(10, 14)).toEqual([7, 8, 1, 2]));
test('fades are linear: in over the first frames, out behind the end', () => {
  const flat = new Map([['b', [new Float32Array(8).fill(1)]]]),
    { channels } = mix([event({ fadeInFrames: 4, fadeOutFrames: 4 })], [track()], 0, flat as never);
  expect([...channels[0]].slice(10, 15)).toEqual([0, 0.25, 0.5, 0.75, 1]);
  expect([...channels[0]].slice(19, 25)).toEqual([1, 1, 0.75, 0.5, 0.25, 0]);
});
test('a clip’s own fades shape it beside the edges', () => {
  const flat = new Map([['b', [new Float32Array(8).fill(1)]]]),
    envelope = { startFrame: 10, endFrame: 20, fadeInFrames: 4, fadeOutFrames: 2 },
    { channels } = mix([event({ envelope, fadeOutFrames: 4 })], [track()], 0, flat as never),
    quarter = [0, 1, 2, 3].map((k) => Math.sin((k * Math.PI) / 8));
  quarter.forEach((gain, k) => expect(channels[0][10 + k]).toBeCloseTo(gain, 6));
  expect([...channels[0]].slice(14, 19)).toEqual([1, 1, 1, 1, 1]);
  expect(channels[0][19]).toBeCloseTo(Math.SQRT1_2, 6);
  expect([...channels[0]].slice(20, 25)).toEqual([0, 0, 0, 0, 0]);
});
test('two copies that take over from each other by such fades add up to one', () => {
  const flat = new Map([['b', [new Float32Array(8).fill(1)]]]),
    { channels } = mix(
      [event({ endFrame: 20, fadeOutFrames: 8 }), event({ id: 'f', startFrame: 20, endFrame: 32, fadeInFrames: 8 })],
      [track()],
      0,
      flat as never,
    );
  for (let i = 10; i < 32; i++) expect(channels[0][i]).toBeCloseTo(1, 6);
});
test('gains of clip, track and master multiply', () => {
  const { channels } = mix([event({ gainRatio: 0.5 })], [track({ gainDb: -6 })], -3);
  expect(channels[0][17]).toBeCloseTo(8 * 0.5 * dbToRatio(-9), 5);
});
test('tracks add up; one that is gone and a buffer that is missing are silent', () => {
  const { channels } = mix([event(), event({ id: 'f' }), event({ id: 'g', trackId: 'gone' }), event({ id: 'h', bufferKey: 'missing' })]);
  expect(channels[0][10]).toBe(2);
});
test('all the way left nothing is on the right', () => {
  const { channels } = mix([event()], [track({ pan: -1 })]);
  expect(Math.max(...channels[1].map(Math.abs))).toBeLessThan(1e-6);
  expect(channels[0][10]).toBeGreaterThan(0.99);
});
test('nothing that would sound behind the end is written, and silence has no peak', () => {
  const { channels } = mix([event({ startFrame: 36, endFrame: 50 })]);
  expect(channels[0]).toHaveLength(40);
  expect(channels[0][39]).toBe(4);
  expect(mix([]).peakDbfs).toBeNull();
});
test('progress rises to one', () => {
  const told: number[] = [];
  renderMix(project([track()]), schedule([event(), event({ id: 'f' })]), new Map(), (share) => told.push(share));
  expect(told).toEqual([0.5, 1]);
});
