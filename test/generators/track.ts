import type { Track } from '../../core/arrangement/tree';

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
