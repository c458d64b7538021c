import type { VoiceNote } from '../voice';

/** A note sample by sample, faded out over its last 256 frames. */
export function render(note: VoiceNote, releaseSeconds: number, sample: (t: number, i: number) => number): Float32Array {
  const length = Math.round((note.heldSeconds + releaseSeconds) * note.rateHz),
    out = new Float32Array(length);
  for (let i = 0; i < length; i++) out[i] = sample(i / note.rateHz, i) * Math.min(1, (length - i) / 256);
  return out;
}
