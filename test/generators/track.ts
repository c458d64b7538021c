import type { Clip, Track } from '../../core/arrangement/tree';

/** An empty track at unity gain in the middle, but for `changes`. */
export const plainTrack = (changes: Partial<Track> = {}): Track => ({
  kind: 'track',
  id: 't',
  name: 'T',
  colour: 0,
  gainDb: 0,
  pan: 0,
  muted: false,
  soloed: false,
  clips: [],
  ...changes,
});

/** Four bars of the loop 1 from the start on, as it comes, but for `changes`. */
export const plainClip = (changes: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id: 'c',
  loopId: 1,
  startBeat: 0,
  lengthBeats: 16,
  offsetBeats: 0,
  gainDb: 0,
  shiftSemitones: 0,
  followTempo: true,
  followKey: true,
  ...changes,
});
