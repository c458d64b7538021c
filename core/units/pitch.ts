export const semitonesPerOctave = 12;
const concertA = { hz: 440, note: 69 }; // ISO 16:1975

/** MIDI note number to frequency in equal temperament. @example noteToHz(69) // => 440 */
export function noteToHz(note: number): number {
  return concertA.hz * 2 ** ((note - concertA.note) / semitonesPerOctave);
}

/** Frequency to MIDI note number, with fraction. */
export function hzToNote(hz: number): number {
  return concertA.note + semitonesPerOctave * Math.log2(hz / concertA.hz);
}

/** Semitones to frequency ratio. @example semitonesToRatio(24) // => 4 */
export function semitonesToRatio(semitones: number): number {
  return 2 ** (semitones / semitonesPerOctave);
}

/** 0–11 for any whole or negative number. */
export function pitchClass(note: number): number {
  return ((Math.round(note) % semitonesPerOctave) + semitonesPerOctave) % semitonesPerOctave;
}

/** Cents as a ratio of frequencies. @example centsToRatio(1200) // => 2 */
export const centsToRatio = (cents: number): number => 2 ** (cents / (100 * semitonesPerOctave));
