import { createRandom } from '../../synth/random';
import type { Key } from '../../theory/key';
import { movedInScale } from './move-to-key';
import { inPlayingOrder, type PatternNote } from './pattern';

/*
 * What can be done to chosen notes: each gives the notes as they are afterwards, under the ids they had. Beats of the pattern.
 */

const shortestBeats = 1 / 32;
const clampPitch = (pitch: number): number => Math.max(0, Math.min(127, Math.round(pitch)));
const clampVelocity = (velocity: number): number => Math.max(1, Math.min(127, Math.round(velocity)));

/** The nearest line of a grid, every other one late by the swing. @param swing 0 straight … 1 the second of two lies at three quarters */
export function nearestLine(beat: number, gridBeats: number, swing: number): number {
  const lineAt = (k: number) => k * gridBeats + (k % 2 === 1 ? swing * 0.5 * gridBeats : 0),
    near = Math.round(beat / gridBeats);
  return [near - 1, near, near + 1]
    .filter((k) => k >= 0)
    .map(lineAt)
    .reduce((best, line) => (Math.abs(line - beat) < Math.abs(best - beat) ? line : best), Infinity);
}

/** Draws where notes begin to the lines of a grid. @param strength 0 not at all … 1 onto them */
export const quantised = (notes: readonly PatternNote[], gridBeats: number, strength: number, swing: number): PatternNote[] =>
  notes.map((note) => ({
    ...note,
    startBeat: Math.max(0, note.startBeat + strength * (nearestLine(note.startBeat, gridBeats, swing) - note.startBeat)),
  }));

/** Lets notes begin a little off and be struck a little differently, as a player does. Same seed, same notes. @param amount 0–1: up to 1/16 beat and 24 of velocity */
export function humanised(notes: readonly PatternNote[], amount: number, seed: number): PatternNote[] {
  const random = createRandom(seed),
    // Two in sum: near the middle more often than at the edges.
    off = () => random() + random() - 1;
  return inPlayingOrder(notes).map((note) => ({
    ...note,
    startBeat: Math.max(0, note.startBeat + (off() * amount) / 16),
    velocity: clampVelocity(note.velocity + off() * amount * 24),
  }));
}

/** Notes so many semitones higher; what would leave the keyboard stays at its end. */
export const transposed = (notes: readonly PatternNote[], semitones: number): PatternNote[] =>
  notes.map((note) => ({ ...note, pitch: clampPitch(note.pitch + semitones) }));

/** Notes so many steps of a key higher. */
export const transposedInScale = (notes: readonly PatternNote[], key: Key, steps: number): PatternNote[] =>
  notes.map((note) => ({ ...note, pitch: clampPitch(movedInScale(note.pitch, key, steps)) }));

/** Each note held until the next begins, notes that begin together alike; the last as it was. */
export function legato(notes: readonly PatternNote[]): PatternNote[] {
  const starts = [...new Set(notes.map(({ startBeat }) => startBeat))].sort((a, b) => a - b);
  return notes.map((note) => {
    const next = starts.find((beat) => beat > note.startBeat + shortestBeats);
    return next === undefined ? note : { ...note, lengthBeats: next - note.startBeat };
  });
}

/** Notes backwards, within the stretch that they fill. */
export function reversed(notes: readonly PatternNote[]): PatternNote[] {
  const from = Math.min(...notes.map(({ startBeat }) => startBeat)),
    to = Math.max(...notes.map(({ startBeat, lengthBeats }) => startBeat + lengthBeats));
  return notes.map((note) => ({ ...note, startBeat: from + to - note.startBeat - note.lengthBeats }));
}

/** Notes moved and made longer together, none before the start or shorter than a thirty-second of a beat. */
export const moved = (
  notes: readonly PatternNote[],
  by: { readonly beats?: number; readonly semitones?: number; readonly lengthBeats?: number; readonly velocity?: number },
): PatternNote[] => {
  const earliest = Math.min(...notes.map(({ startBeat }) => startBeat)),
    beats = Math.max(-earliest, by.beats ?? 0);
  return notes.map((note) => ({
    ...note,
    startBeat: note.startBeat + beats,
    pitch: clampPitch(note.pitch + (by.semitones ?? 0)),
    lengthBeats: Math.max(shortestBeats, note.lengthBeats + (by.lengthBeats ?? 0)),
    velocity: clampVelocity(note.velocity + (by.velocity ?? 0)),
  }));
};

/** The same notes once more behind themselves, by whole grid lines. @param newId names for the copies */
export function repeated(notes: readonly PatternNote[], gridBeats: number, newId: () => string): PatternNote[] {
  const from = Math.min(...notes.map(({ startBeat }) => startBeat)),
    to = Math.max(...notes.map(({ startBeat, lengthBeats }) => startBeat + lengthBeats)),
    by = Math.max(gridBeats, Math.ceil((to - from) / gridBeats - 1e-6) * gridBeats);
  return notes.map((note) => ({ ...note, id: newId(), startBeat: note.startBeat + by }));
}
