import { nearestLine } from '~core/arrangement/pattern/edit-notes';
import type { PatternNote } from '~core/arrangement/pattern/pattern';

/** A key that was pressed and let go, in beats of the piece. */
export interface PlayedKey {
  readonly pitch: number;
  readonly velocity: number;
  readonly downBeat: number;
  readonly upBeat: number;
}

/** On a keyboard of tones the kit lies two octaves lower: C is the kick, D the snare, F♯ the hats. What lies lower comes from pads, and is meant as it is. */
export const playedPitch = (note: number, isDrums: boolean): number => (isDrums && note >= 60 ? note - 24 : note);

export interface IntoPattern {
  /** Where in the piece the pattern begins. */
  readonly fromBeat: number;
  readonly lengthBeats: number;
  /** By how much what is heard comes later than it is counted, and is played later for it. */
  readonly lateBeats: number;
  /** null: as it was played. */
  readonly quantiseBeats: number | null;
}

/** Played keys as notes of a pattern, round and round with it; what was played in the count-in right before its start belongs to its start. */
export function recordedNotes(
  keys: readonly PlayedKey[],
  { fromBeat, lengthBeats, lateBeats, quantiseBeats }: IntoPattern,
  newId: () => string,
): PatternNote[] {
  return keys.flatMap(({ pitch, velocity, downBeat, upBeat }): PatternNote[] => {
    const played = downBeat - fromBeat - lateBeats;
    if (played < -0.25) return [];
    const into = ((Math.max(0, played) % lengthBeats) + lengthBeats) % lengthBeats,
      line = quantiseBeats === null ? into : nearestLine(into, quantiseBeats, 0),
      startBeat = line >= lengthBeats - 1e-6 ? 0 : line;
    return [
      {
        id: newId(),
        startBeat,
        lengthBeats: Math.min(Math.max(1 / 16, upBeat - downBeat), lengthBeats - startBeat),
        pitch,
        velocity: Math.max(1, Math.min(127, Math.round(velocity))),
      },
    ];
  });
}
