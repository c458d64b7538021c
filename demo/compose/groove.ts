import type { Note } from '../../core/formats/smf/parse';

/** Time of a sixteenth with swing: the off-sixteenths are late by `swing` × a sixteenth (0 straight, ⅓ triplet). */
export function swung(step: number, stepsPerBeat: number, swing: number): number {
  return step / stepsPerBeat + (stepsPerBeat === 4 && step % 2 === 1 ? swing / stepsPerBeat : 0);
}

const strengths: Readonly<Record<string, number>> = { X: 118, x: 96, o: 74, g: 42, '.': 0 };

export interface Line {
  readonly pitch: number;
  readonly steps: string;
  readonly lengthBeats?: number;
  readonly lateBeats?: number;
}

export interface GrooveOptions {
  readonly bars: number;
  readonly barBeats: number;
  readonly stepsPerBeat: number;
  readonly swing: number;
  readonly random: () => number;
  readonly channel: number;
  readonly looseBeats: number;
}

/**
 * Patterns to notes: `X` accent, `x` plain, `o` soft, `g` ghost. A pattern shorter than the loop repeats. Velocities and
 * times are moved a little, as a player would; the first downbeat stays where it is.
 */
export function playLines(
  lines: readonly Line[],
  { bars, barBeats, stepsPerBeat, swing, random, channel, looseBeats }: GrooveOptions,
): Note[] {
  const total = bars * barBeats * stepsPerBeat,
    notes: Note[] = [];
  for (const { pitch, steps, lengthBeats = 0.2, lateBeats = 0 } of lines) {
    for (let step = 0; step < total; step++) {
      const strength = strengths[steps[step % steps.length]] ?? 0;
      if (strength === 0) continue;
      const loose = step === 0 ? 0 : (random() - 0.5) * 2 * looseBeats + lateBeats;
      notes.push({
        startBeat: Math.max(0, swung(step, stepsPerBeat, swing) + loose),
        lengthBeats,
        pitch,
        velocity: Math.max(12, Math.min(126, Math.round(strength + (random() - 0.5) * 12))),
        channel,
      });
    }
  }
  return notes.sort((a, b) => a.startBeat - b.startBeat);
}

/** Replaces the last half bar by a run over the given drums. */
export function withFill(notes: readonly Note[], totalBeats: number, pitches: readonly number[], random: () => number): Note[] {
  const from = totalBeats - 2;
  const run = Array.from({ length: 8 }, (_, k) => ({
    startBeat: from + k * 0.25,
    lengthBeats: 0.2,
    pitch: pitches[Math.min(pitches.length - 1, Math.floor((k / 8) * pitches.length))],
    velocity: 70 + k * 6 + Math.round(random() * 6),
    channel: 9,
  })).filter(() => random() > 0.15);
  return [...notes.filter((note) => note.startBeat < from - 0.01 || note.pitch === 36), ...run];
}
