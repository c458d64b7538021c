import type { LoopSource } from '../../core/arrangement/fit-request';

/** A loop of a piano in D minor, two seconds that are four beats, but for `changes`. */
export const loopSource = (loopId: number, changes: Partial<LoopSource> = {}): LoopSource => ({
  loopId,
  kind: 'loop',
  media: 'audio',
  soundSha: String(loopId),
  soundFrames: 88_200,
  tempoBpm: 120,
  beats: 4,
  key: { tonic: 2, mode: 'minor' },
  pitched: true,
  family: 'keys',
  instrument: 'piano',
  loudnessLufs: -18,
  startFrame: 0,
  onsetFrames: [0, 22_050, 44_100, 66_150],
  barBeats: 4,
  ...changes,
});
