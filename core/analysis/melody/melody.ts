import type { PitchTrack } from './pitch-track';

/** A note that a single voice sings or plays. */
export interface HeardNote {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
  /** MIDI note. */
  readonly pitch: number;
  /** How far off the tuned semitone it is held, −50 … 50. */
  readonly cents: number;
  /** 0–1, against the loudest note. */
  readonly strength: number;
}

const shortestSeconds = 0.05,
  longestAttackSeconds = 0.2,
  /** A pitch that moves on by more than this has become another note. */
  anotherNote = 0.6;

/**
 * The track cut into notes: where the pitch settles elsewhere, where the voice pauses, and where it is struck again on the same pitch.
 * @param onsetSeconds where hits begin; they cut notes and say exactly when one starts
 * @param tuningCents how far the whole is off A4 = 440 Hz
 */
export function notesOfTrack(track: PitchTrack, onsetSeconds: readonly number[], tuningCents: number): HeardNote[] {
  const { hopSeconds, frameCount, notes, levels } = track,
    shift = tuningCents / 100;
  let loudest = 0;
  for (const level of levels) loudest = Math.max(loudest, level);
  const struck = new Set(onsetSeconds.filter((at) => risesAt(track, at)).map((at) => Math.round(at / hopSeconds)));
  const found: HeardNote[] = [];
  let from = -1,
    held: number[] = [];
  const close = (to: number) => {
    if (from >= 0 && (to - from) * hopSeconds >= shortestSeconds) {
      const middle = median(held.slice(Math.floor(held.length * 0.2), Math.max(1, Math.ceil(held.length * 0.95)))),
        pitch = Math.round(middle - shift);
      let strength = 0;
      for (let frame = from; frame < to; frame++) strength = Math.max(strength, levels[frame]);
      const quietSince = found.length ? found[found.length - 1].startSeconds + found[found.length - 1].lengthSeconds : -1,
        startSeconds = startNear(track, from, onsetSeconds, quietSince);
      if (strength > loudest * 0.03)
        found.push({
          startSeconds,
          lengthSeconds: to * hopSeconds - startSeconds,
          pitch,
          cents: (middle - shift - pitch) * 100,
          strength: strength / loudest,
        });
    }
    from = -1;
    held = [];
  };
  for (let frame = 0; frame < frameCount; frame++) {
    const note = notes[frame];
    if (note === 0) {
      close(frame);
      continue;
    }
    if (from >= 0) {
      const recent = median(held.slice(-24));
      const moved =
        Math.abs(note - recent) > anotherNote && settles(notes, frame, [-2, -1, 0, 1, 2].some((k) => struck.has(frame + k)) ? 4 : 8);
      if (moved || (struck.has(frame) && frame - from > 3)) close(frame);
    }
    if (from < 0) from = frame;
    held.push(note);
  }
  close(frameCount);
  return found;
}

/** Whether the pitch at `frame` is kept for the next frames: not a slide through, nor the top of a vibrato. */
function settles(notes: Float32Array, frame: number, frames: number): boolean {
  let near = 0;
  for (let k = frame; k < frame + frames; k++) if (notes[k] !== undefined && Math.abs(notes[k] - notes[frame]) < 0.4) near++;
  return near >= frames - 1;
}

/** A hit cuts a held note only if the level rises there. */
function risesAt({ levels, hopSeconds }: PitchTrack, seconds: number): boolean {
  const frame = Math.round(seconds / hopSeconds),
    before = levels[Math.max(0, frame - 4)] ?? 0,
    after = levels[Math.min(levels.length - 1, frame + 4)] ?? 0;
  return after > before * 1.15;
}

/**
 * When the note that is heard from `frame` on began: frames are wide, and the attack of a plucked string, up to a fifth of a second of
 * it, has no pitch yet. So the first hit since what sounded before from which the sound did not fall silent again.
 */
function startNear({ levels, hopSeconds }: PitchTrack, frame: number, onsetSeconds: readonly number[], quietSince: number): number {
  const seconds = frame * hopSeconds;
  let quietest = Infinity,
    from = frame;
  const level = Math.max(levels[frame], levels[frame + 2] ?? 0);
  while (from > 0 && (frame - from) * hopSeconds < longestAttackSeconds && (quietest = Math.min(quietest, levels[from - 1])) > level * 0.4)
    from--;
  const earliest = Math.max(quietSince - 4 * hopSeconds, Math.min(from, frame - 5) * hopSeconds),
    possible = onsetSeconds.filter((at) => at > earliest && at < seconds + 5 * hopSeconds);
  return possible.length ? possible[0] : seconds;
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
