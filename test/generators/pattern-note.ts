import type { PatternNote } from '../../core/arrangement/pattern/pattern';

/** A note of a pattern, told apart by where it stands. */
export const patternNote = (startBeat: number, pitch: number, lengthBeats = 1, velocity = 100): PatternNote => ({
  id: `${startBeat}/${pitch}`,
  startBeat,
  lengthBeats,
  pitch,
  velocity,
});
