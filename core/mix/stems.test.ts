import { plainTrack } from '../../test/generators/track';
import type { Schedule, SoundEvent } from '../arrangement/schedule';
import { emptyProject, type Project, type Track } from '../arrangement/tree';
import { createRandom } from '../synth/random';
import { renderMix } from './render';
import { renderStems, soundingTracks, trackFileName } from './stems';

const random = createRandom(7),
  noise = () => Float32Array.from({ length: 600 }, () => random() * 2 - 1),
  buffers = new Map([
    ['a', [noise(), noise()]],
    ['b', [noise()]],
  ]),
  event = (trackId: string, bufferKey: string, startFrame: number, changes: Partial<SoundEvent> = {}): SoundEvent => ({
    id: `${trackId}${startFrame}`,
    trackId,
    bufferKey,
    startFrame,
    endFrame: startFrame + 900,
    offsetFrame: 0,
    cyclic: true,
    fadeInFrames: 16,
    fadeOutFrames: 128,
    gainRatio: 0.7,
    ...changes,
  }),
  events = [event('low', 'a', 0), event('high', 'b', 300, { cyclic: false }), event('low', 'b', 1200), event('high', 'a', 1500)],
  schedule: Schedule = { events, requests: new Map(), endFrame: 2600 },
  tracks: Track[] = [
    plainTrack({ id: 'low', name: 'Low: end', gainDb: -3, pan: -0.4 }),
    plainTrack({ id: 'silent', name: 'Silent' }),
    plainTrack({ id: 'high', name: 'High', gainDb: 2, pan: 0.8 }),
  ],
  project: Project = { ...emptyProject('Stems', 120, null), masterGainDb: -4, tracks };

test('stems laid side by side are the mixdown: as long as it, at their level, and in their place', () => {
  const stems = [...renderStems(project, schedule, buffers)],
    { channels } = renderMix(project, schedule, buffers);
  expect(stems.map(({ trackId }) => trackId)).toEqual(['low', 'high']);
  for (const side of [0, 1]) {
    for (const stem of stems) expect(stem.channels[side]).toHaveLength(2600);
    const most = channels[side].reduce(
      (so, value, i) => Math.max(so, Math.abs(value - stems[0].channels[side][i] - stems[1].channels[side][i])),
      0,
    );
    expect(most).toBeLessThan(1e-6);
  }
  // Each is its own and no other.
  expect(stems[1].channels[0].subarray(0, 300).every((value) => value === 0)).toBe(true);
  expect(stems[0].channels[0].subarray(0, 300).some((value) => value !== 0)).toBe(true);
});
test('files are called by what sounds, in the order of the piece', () =>
  expect(soundingTracks(project, schedule).map(({ fileName }) => fileName)).toEqual(['01 Low- end', '02 High']));
test.each([
  ['a/b', 1, 3, '01 a-b'],
  ['Drums', 7, 120, '007 Drums'],
  ['', 12, 12, '12 Track'],
])('the track %p is number %p of %p by its file’s name', (name, place, of, expected) =>
  expect(trackFileName(name, place, of)).toBe(expected),
);
