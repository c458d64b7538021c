import { emptyProject, type Clip, type Project } from './tree';
import { scheduleRepetitions, scheduleProject } from './schedule';
import { chooseReading, describeFit, fitLoop, keyShift, type LoopSource } from './fit-request';
import { renderMix } from '../mix/render';
import { parseKey } from '../theory/key';
import { plainClip as clip, plainTrack } from '../../test/generators/track';

const drums: LoopSource = {
  loopId: 1,
  kind: 'loop',
  media: 'audio',
  soundSha: 'd',
  soundFrames: 341419,
  tempoBpm: 124,
  beats: 16,
  barBeats: 4,
  key: null,
  pitched: false,
  family: 'drums',
  instrument: 'kit',
  loudnessLufs: -14,
  startFrame: 0,
  onsetFrames: [0],
};
const bass: LoopSource = {
  ...drums,
  loopId: 2,
  soundSha: 'b',
  key: parseKey('Bbm'),
  pitched: true,
  family: 'bass',
  instrument: 'electric-bass',
};
const withClip = (project: Project, each: Clip): Project => ({
  ...project,
  tracks: [plainTrack({ clips: [each] })],
});

describe('fitting by common practice', () => {
  test('4 bars at 124 in a project at 120: −3.2 %', () => {
    const fitted = fitLoop(drums, { tempoBpm: 120, key: null, followTempo: true, followKey: true });
    expect(fitted.speedPercent).toBeCloseTo(-3.2, 1);
    expect(fitted.cycleBeats).toBe(16);
    expect(fitted.request.targetFrames).toBe(8 * 44100);
    expect(describeFit(fitted)).toBe('−3.2 %, same pitch');
  });
  test('B♭ minor in a project in D minor goes up 4; drums never move', () => {
    expect(keyShift(bass, parseKey('Dm'))).toBe(4);
    expect(keyShift(drums, parseKey('Dm'))).toBe(0);
  });
  test('a 70 loop in a 140 project is read as double time', () => {
    expect(chooseReading(70, 140)).toBe(2);
    expect(chooseReading(124, 120)).toBe(1);
    expect(fitLoop({ ...drums, tempoBpm: 70 }, { tempoBpm: 140, key: null, followTempo: true, followKey: true }).speedPercent).toBeCloseTo(
      0,
      6,
    );
  });
  test('a one-shot keeps its speed and plays once', () => {
    const fitted = fitLoop(
      { ...drums, kind: 'one-shot', tempoBpm: null, beats: null },
      { tempoBpm: 90, key: null, followTempo: true, followKey: true },
    );
    expect(fitted.request.kind).toBe('once');
    expect(fitted.cycleFrames).toBe(Infinity);
  });
});

describe('schedule', () => {
  test('every cycle begins within a frame of its beat, also after 64 bars at 124', () => {
    const project = withClip(emptyProject('P', 124, null), clip({ lengthBeats: 256 }));
    const { events } = scheduleProject(project, new Map([[1, drums]]));
    const cycle = (16 * 60 * 44100) / 124;
    const buffer = Math.round(cycle);
    for (const event of events) {
      const cycles = Math.round((event.startFrame - 0) / cycle);
      expect(Math.abs(event.startFrame - cycles * cycle)).toBeLessThanOrEqual(0.5);
      const lapsInside = Math.round((event.endFrame - event.startFrame) / cycle);
      expect(Math.abs(event.endFrame - event.startFrame - lapsInside * buffer)).toBeLessThanOrEqual(1);
    }
    expect(events.at(-1)?.endFrame).toBe(Math.round((256 * 60 * 44100) / 124));
  });
  test('events of a clip touch without gap or overlap', () => {
    const { events } = scheduleProject(
      withClip(emptyProject('P', 97.3, null), clip({ lengthBeats: 100, offsetBeats: 3 })),
      new Map([[1, drums]]),
    );
    events.slice(1).forEach((event, index) => expect(event.startFrame).toBe(events[index].endFrame));
    expect(events[0].offsetFrame).toBe(Math.round((3 * 60 * 44100) / 97.3));
  });
  test('a change of tempo keeps clips on their bars; a change of key moves pitched material only', () => {
    const project = { ...withClip(emptyProject('P', 120, parseKey('C')), clip({ startBeat: 8 })) };
    const slow = scheduleProject({ ...project, tempoBpm: 88 }, new Map([[1, drums]]));
    expect(slow.events[0].startFrame).toBe(Math.round((8 * 60 * 44100) / 88));
    const keys = (key: string) =>
      [
        ...scheduleProject(
          { ...withClip(project, clip({ loopId: 2 })), key: parseKey(key) },
          new Map([[2, { ...bass, key: parseKey('C') }]]),
        ).requests.values(),
      ][0].shiftSemitones;
    expect([keys('C'), keys('D')]).toEqual([0, 2]);
  });
  test('a clip shorter than a cycle is cut, a one-shot is not repeated', () => {
    expect(
      scheduleProject(withClip(emptyProject('P', 120, null), clip({ lengthBeats: 3 })), new Map([[1, drums]])).events[0].endFrame,
    ).toBe(3 * 22050);
    const shot: LoopSource = { ...drums, kind: 'one-shot', soundFrames: 10000 };
    const { events } = scheduleProject(withClip(emptyProject('P', 120, null), clip({ lengthBeats: 64 })), new Map([[1, shot]]));
    expect(events).toHaveLength(1);
    expect(events[0].endFrame).toBe(10000);
  });
  test('an endless candidate is planned so far and no farther, without a gap and never a frame off', () => {
    // A cycle that is no whole number of frames, so that it is begun anew again and again.
    const fitted = fitLoop(drums, { tempoBpm: 121.3, key: null, followTempo: true, followKey: true }),
      events = scheduleRepetitions({ id: 'x', trackId: 't', fitted, startExact: 0, endExact: Infinity, offsetExact: 0, gainRatio: 1 });
    expect(Number.isInteger(fitted.cycleFrames)).toBe(false);
    expect(events[0].startFrame).toBe(0);
    expect(events.length).toBeGreaterThan(10);
    expect(events.length).toBeLessThanOrEqual(4096);
    events.slice(1).forEach((event, k) => {
      expect(event.startFrame).toBe(events[k].endFrame);
      const cycles = event.startFrame / fitted.cycleFrames;
      expect(Math.abs(cycles - Math.round(cycles)) * fitted.cycleFrames).toBeLessThanOrEqual(0.5 + 1e-6);
    });
  });
});

describe('mixdown', () => {
  const buffers = new Map([['key', [Float32Array.from({ length: 100 }, () => 0.5)]]]);
  const event = {
    id: 'e',
    trackId: 't',
    bufferKey: 'key',
    startFrame: 10,
    endFrame: 60,
    offsetFrame: 0,
    cyclic: true,
    fadeInFrames: 0,
    fadeOutFrames: 10,
    gainRatio: 1,
  };
  test('levels, pan and fades', () => {
    const project = withClip(emptyProject('P', 120, null), clip());
    const {
      channels: [left, right],
      peakDbfs,
    } = renderMix(project, { events: [event], requests: new Map(), endFrame: 70 }, buffers);
    expect(left[9]).toBe(0);
    expect(left[10]).toBeCloseTo(0.5, 6);
    expect(right[65]).toBeCloseTo(0.25, 6);
    expect(peakDbfs).toBeCloseTo(-6.02, 2);
  });
  test('all tracks at −2 dB are × 0.794 (common practice)', () => {
    const project = { ...withClip(emptyProject('P', 120, null), clip()) };
    const quieter = { ...project, tracks: project.tracks.map((track) => ({ ...track, gainDb: -2 })) };
    expect(renderMix(quieter, { events: [event], requests: new Map(), endFrame: 70 }, buffers).channels[0][30]).toBeCloseTo(0.5 * 0.794, 3);
  });
});
