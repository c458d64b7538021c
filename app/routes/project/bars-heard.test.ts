import { plainClip, plainTrack } from '../../../test/generators/track';
import { emptyProject, type Project } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import { barsHeard } from './bars-heard';

/** A loop of two bars at 120 that is loud in its first bar and silent in its second. */
const loop = {
  id: 1,
  overview: Buffer.from([...new Array<number>(64).fill(255), ...new Array<number>(64).fill(0)]).toString('base64'),
  source: {
    loopId: 1,
    kind: 'loop',
    media: 'audio',
    soundSha: 'x',
    soundFrames: 176_400,
    tempoBpm: 120,
    beats: 8,
    barBeats: 4,
    key: null,
    pitched: false,
    family: 'drums',
    instrument: 'kit',
    loudnessLufs: -14,
    startFrame: 0,
    onsetFrames: [],
  },
} as unknown as WholeLoop;

const section = { kind: 'section' as const, id: 's', name: 'Main', startBeat: 8, lengthBeats: 16 },
  bars = (clip: ReturnType<typeof plainClip>, changes = {}) => {
    const project: Project = { ...emptyProject('Piece', 120, null), tracks: [plainTrack({ clips: [clip], ...changes })] };
    return barsHeard(project, section, new Map([[1, loop]])).map((bar) => Math.max(...bar));
  };

test('each bar is as loud as what lies there in the loop, from where the clip begins in it', () => {
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 16 }))).toEqual([1, 0, 1, 0]);
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 16, offsetBeats: 4 }))).toEqual([0, 1, 0, 1]);
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 8 }))).toEqual([1, 0, 0, 0]);
});

test('by the level of clip and track; what is muted is silence', () => {
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 4, gainDb: -20 }))[0]).toBeCloseTo(0.1, 6);
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 4 }), { gainDb: -20 })[0]).toBeCloseTo(0.1, 6);
  expect(bars(plainClip({ startBeat: 8, lengthBeats: 16, muted: true })).every((level) => !(level > 0))).toBe(true);
});
