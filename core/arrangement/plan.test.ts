import { plainClip, plainTrack } from '../../test/generators/track';
import { envelopeGain } from './envelope';
import type { LoopSource } from './fit-request';
import { fitHeard } from './place';
import { fitClip, planClip } from './plan';
import { noOverrides } from './fit-settings';
import { scheduleProject } from './schedule';
import { emptyProject, type Project } from './tree';

const setting = { tempoBpm: 120, key: null },
  source: LoopSource = {
    loopId: 1,
    kind: 'loop',
    media: 'audio',
    soundSha: 'k',
    soundFrames: 88200,
    tempoBpm: 120,
    beats: 4,
    barBeats: 4,
    key: { tonic: 2, mode: 'minor' },
    pitched: true,
    family: 'keys',
    instrument: 'piano',
    loudnessLufs: -14,
    startFrame: 0,
    onsetFrames: [0],
  };

describe('what a clip comes to', () => {
  test('one stretch, where the clip lies, with its level and fades', () => {
    const clip = plainClip({ startBeat: 8, lengthBeats: 6, offsetBeats: 2, gainDb: -3, fadeInBeats: 1, fadeOutBeats: 2 });
    expect(planClip(clip, source, setting)).toMatchObject([
      { startBeat: 8, lengthBeats: 6, offsetBeats: 2, gainDb: -3, fadeInBeats: 1, fadeOutBeats: 2, landing: null },
    ]);
  });

  test('nothing of one that is muted', () => expect(planClip(plainClip({ muted: true }), source, setting)).toEqual([]));

  test.each([[{}], [{ shiftSemitones: -8 }], [{ speedRatio: 2, reverse: true }], [{ stretchMode: 'tonal' as const, firstBars: 1 }]])(
    'a clip is fitted as its loop was heard: %j',
    (tried) => {
      const { shiftSemitones = 0, ...overrides } = tried as { shiftSemitones?: number },
        heard = { followTempo: true, followKey: false, overrides: { ...noOverrides, ...tried } };
      expect(fitClip({ ...plainClip({ shiftSemitones, overrides }), followKey: false }, source, setting)).toEqual(
        fitHeard(source, setting, heard),
      );
    },
  );
});

describe('fades of a clip', () => {
  const project = (clip: ReturnType<typeof plainClip>): Project => ({
      ...emptyProject('Fades', 120, null),
      tracks: [plainTrack({ clips: [clip] })],
    }),
    eventsOf = (clip: ReturnType<typeof plainClip>) => scheduleProject(project(clip), new Map([[1, source]])).events;

  test('are of the clip as a whole, whatever it is made of', () => {
    const events = eventsOf(plainClip({ startBeat: 4, lengthBeats: 8, fadeInBeats: 2, fadeOutBeats: 4 }));
    expect(events.length).toBeGreaterThan(0);
    for (const { envelope } of events)
      expect(envelope).toEqual({ startFrame: 88200, endFrame: 88200 + 176400, fadeInFrames: 44100, fadeOutFrames: 88200 });
  });

  test('where nothing fades nothing is shaped', () => {
    for (const { envelope } of eventsOf(plainClip())) expect(envelope).toBeUndefined();
  });

  test('a muted clip asks for no sound', () => {
    const { events, requests } = scheduleProject(project(plainClip({ muted: true })), new Map([[1, source]]));
    expect([events.length, requests.size]).toEqual([0, 0]);
  });

  test('neither does a track that is set aside, though it is soloed', () => {
    const tracks = [
      plainTrack({ id: 'a', setAside: true, soloed: true, clips: [plainClip({ id: 'a1' })] }),
      plainTrack({ id: 'b', clips: [plainClip({ id: 'b1' })] }),
    ];
    expect(
      scheduleProject({ ...emptyProject('Aside', 120, null), tracks }, new Map([[1, source]])).events.map(({ trackId }) => trackId),
    ).toEqual(['b']);
  });
});

describe('an envelope', () => {
  const envelope = { startFrame: 1000, endFrame: 5000, fadeInFrames: 1000, fadeOutFrames: 2000 };
  test.each([
    [999, 0],
    [1000, 0],
    [1500, Math.SQRT1_2],
    [2000, 1],
    [3000, 1],
    [4000, Math.SQRT1_2],
    [5000, 0],
    [6000, 0],
  ])('at frame %d it is %d', (frame, gain) => expect(envelopeGain(envelope, frame)).toBeCloseTo(gain, 12));

  test('where one goes down as another comes up, the power stays the same', () => {
    const out = { startFrame: 0, endFrame: 3000, fadeInFrames: 0, fadeOutFrames: 1000 },
      into = { startFrame: 2000, endFrame: 9000, fadeInFrames: 1000, fadeOutFrames: 0 };
    for (let frame = 2000; frame <= 3000; frame += 50)
      expect(envelopeGain(out, frame) ** 2 + envelopeGain(into, frame) ** 2).toBeCloseTo(1, 12);
  });
});
