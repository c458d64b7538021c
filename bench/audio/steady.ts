import type { StretchMode } from '../../core/stretch/stretch-modes';
import { fitCycle } from '../../core/stretch/fit';
import { semitonesToRatio } from '../../core/units/pitch';
import { formantsOf, vowelCycle } from '../../test/measures/formants';
import { mean, partialsOf, spectralDistanceDb } from '../../test/measures/measures';
import { formantReference, references, runReference } from './references';
import { saneFit } from './sanity';
import { printSanity, type SanityRow } from './sanity-run';

const rateHz = 44100;
type Maker = [name: string, fit: Fit];
type Fit = (sound: readonly Float32Array[], targetFrames: number, shiftSemitones: number) => readonly Float32Array[];

const reference =
  (name: string): Fit =>
  (sound, targetFrames, shift) =>
    runReference([...references, formantReference].find((each) => each.name === name) ?? references[0], sound, targetFrames, shift).sound;

/**
 * The makers, each fit of theirs held against what went in as well, under an engine's limits: a figure that was aimed at may be good and the
 * sound beside it spoilt. `name` says of what.
 */
function judged(makers: readonly Maker[], engine: StretchMode, sane: SanityRow[], name: () => string): Maker[] {
  return makers.map(([maker, fit]) => [
    maker,
    (sound, targetFrames, shiftSemitones) => {
      const made = fit(sound, targetFrames, shiftSemitones);
      sane.push({ ...saneFit(sound, made, { engine, targetFrames, shiftSemitones }), maker, stretchMode: engine, name: name() });
      return made;
    },
  ]);
}

const makers = (withReferences: boolean): Maker[] => [
  ['tonal', (sound, targetFrames, shiftSemitones) => fitCycle(sound, [], { stretchMode: 'tonal', targetFrames, shiftSemitones })],
  ...(withReferences ? references.map(({ name }): Maker => [name, reference(name)]) : []),
];

const just = (fundamentalHz: number, ...multiples: readonly number[]) => multiples.map((multiple) => multiple * fundamentalHz),
  tempered = (...notes: readonly number[]) => notes.map((note) => Math.round(440 * 2 ** ((note - 69) / 12) * 4) / 4);

/**
 * Held chords by the frequencies of their notes, whole periods in four seconds. In just intonation partials of the notes fall together or lie
 * far enough apart to be told from each other; in equal temperament many lie a fraction of a hertz apart and beat, and how much each of them
 * wobbles is told by the beating too.
 */
export const chords = {
  just: [just(36.75, 4, 5, 6, 8), just(27.5, 6, 8, 9), just(41.25, 4, 5, 6, 7), just(16.5, 10, 12, 15), just(22, 10, 12, 15, 18)],
  tempered: [tempered(50, 57, 62, 65), tempered(57, 60, 64), tempered(48, 55, 64, 70), tempered(53, 57, 60, 64), tempered(45, 60, 64, 67)],
};
const partialsANote = 16;

/** The partials of a chord, each once, moved by a shift. */
export const chordPartialsHz = (notesHz: readonly number[], shiftSemitones: number): number[] =>
  [...new Set(notesHz.flatMap((hz) => Array.from({ length: partialsANote }, (_, k) => hz * (k + 1))))].map(
    (hz) => hz * semitonesToRatio(shiftSemitones),
  );

function chordCycle(notesHz: readonly number[]): Float32Array {
  const sound = new Float32Array(4 * rateHz);
  notesHz.forEach((hz, n) => {
    for (let k = 0; k < partialsANote; k++) {
      const step = (2 * Math.PI * hz * (k + 1)) / rateHz,
        phase = (n * partialsANote + k) ** 2;
      for (let i = 0; i < sound.length; i++) sound[i] += (0.08 / (k + 1)) * Math.sin(step * i + phase);
    }
  });
  return sound;
}

/** How clean and how steady held chords come out, in the mean of the chords. */
export function steadyChord(withReferences: boolean): void {
  const conditions: [ratio: number, shift: number][] = [
    ...[0.5, 0.667, 0.8, 1.25, 1.5, 2].map((ratio): [number, number] => [ratio, 0]),
    ...[5, -5, 12, -12].map((shift): [number, number] => [1, shift]),
  ];
  for (const [tuning, list] of Object.entries(chords)) {
    const cycles = list.map(chordCycle),
      sane: SanityRow[] = [];
    let at = '';
    console.log(`\nHeld chords, ${tuning}`.padEnd(59), '     stretched             ±5            ±12');
    console.log('share that is tones, dB | wobble of their partials');
    for (const [name, fit] of judged(makers(withReferences), 'tonal', sane, () => at)) {
      const found = conditions.map(([ratio, shift]) =>
        cycles.map((cycle, k) => {
          at = `chord ${k + 1} × ${ratio}, ${shift} st`;
          return partialsOf(fit([cycle, cycle], Math.round(cycle.length * ratio), shift)[0], chordPartialsHz(list[k], shift));
        }),
      );
      const part = (from: number, to: number) => {
        const all = found.slice(from, to).flat();
        return `${mean(all.map((each) => each.explainedDb)).toFixed(1)} | ${mean(all.map((each) => each.wobble)).toFixed(3)}`.padStart(15);
      };
      console.log(name.padEnd(58), part(0, 6), part(6, 8), part(8, 10));
    }
    printSanity(`Held chords, ${tuning}`, sane);
  }
}

/** Ten notes one after the other, harmonic, dying away; the same at another tempo and pitch is the truth. */
function lineCycle(secondsANote: number, shiftSemitones: number): Float32Array {
  const notes = [45, 48, 52, 50, 57, 55, 52, 48, 50, 47],
    frames = Math.round(secondsANote * notes.length * rateHz),
    out = new Float32Array(frames);
  notes.forEach((note, k) => {
    const hz = 440 * 2 ** ((note + shiftSemitones - 69) / 12),
      start = Math.round((k * frames) / notes.length),
      length = Math.round(frames / notes.length);
    for (let i = 0; i < length; i++) {
      const t = i / rateHz,
        shape = Math.min(1, t / 0.004) * Math.exp(-2 * t) * Math.min(1, (length - i) / 400);
      for (let h = 1; h <= 10; h++) out[start + i] += ((0.3 / h) * shape * Math.sin(2 * Math.PI * hz * h * t)) / (1 + 0.5 * h * t);
    }
  });
  return out;
}

export function singleLine(withReferences: boolean): void {
  const sane: SanityRow[] = [];
  let at = '';
  console.log('\nA single line: spectral distance, dB          × 1.25    × 0.8       +5       −5');
  for (const [name, fit] of judged(makers(withReferences), 'tonal', sane, () => at)) {
    const cells = (
      [
        [1.25, 0],
        [0.8, 0],
        [1, 5],
        [1, -5],
      ] as const
    ).map(([ratio, shift]) => {
      const source = lineCycle(0.4, 0),
        truth = lineCycle(0.4 * ratio, shift);
      at = `line × ${ratio}, ${shift} st`;
      return spectralDistanceDb(truth, fit([source, source], truth.length, shift)[0])
        .toFixed(2)
        .padStart(8);
    });
    console.log(name.padEnd(42), cells.join(' '));
  }
  printSanity('A single line', sane);
}

const vowels = [
  [730, 1090, 2440],
  [530, 1840, 2480],
  [570, 840, 2410],
  [440, 1020, 2240],
];

/** How far formants move when the pitch does, and whether they go where they are sent when it does not. */
export function formants(withReferences: boolean): void {
  console.log('\nFormants of sung vowels, pitch ± 5: moved by, %      median     p95    within 5 %');
  const sane: SanityRow[] = [];
  let at = '';
  const rows: Maker[] = [
    ['voice', (sound, targetFrames, shiftSemitones) => fitCycle(sound, [], { stretchMode: 'voice', targetFrames, shiftSemitones })],
    ...(withReferences
      ? ([
          ['rubberband R3 -F', reference('rubberband R3 -F')],
          ['rubberband R3', reference('rubberband R3')],
        ] as Maker[])
      : []),
  ];
  for (const [name, fit] of judged(rows, 'voice', sane, () => at)) {
    const moved: number[] = [];
    for (const vowel of vowels)
      for (const hz of [100, 125, 165])
        for (const shift of [-5, -3, 3, 5]) {
          at = `vowel ${vowel[0]} at ${hz} Hz, ${shift} st`;
          const cycle = vowelCycle(hz, vowel, 2),
            made = fit([cycle, cycle], cycle.length, shift)[0];
          formantsOf(made, hz * semitonesToRatio(shift), vowel).forEach((centre, k) => moved.push(Math.abs(centre / vowel[k] - 1) * 100));
        }
    print(name, moved);
  }
  const sent: number[] = [];
  for (const vowel of vowels)
    for (const hz of [100, 125, 165])
      for (const formantSemitones of [-12, -5, 5, 12]) {
        const cycle = vowelCycle(hz, vowel, 2),
          wanted = vowel.map((each) => each * semitonesToRatio(formantSemitones));
        if (wanted[0] < hz * 2) continue;
        const [made] = fitCycle([cycle], [], { stretchMode: 'voice', targetFrames: cycle.length, shiftSemitones: 0, formantSemitones });
        formantsOf(made, hz, wanted).forEach((centre, k) => sent.push(Math.abs(centre / wanted[k] - 1) * 100));
      }
  print('voice, character by −12 … 12', sent);
  printSanity('Sung vowels', sane);
}

function print(name: string, percent: number[]): void {
  const sorted = [...percent].sort((a, b) => a - b);
  console.log(
    name.padEnd(48),
    sorted[Math.floor(sorted.length / 2)].toFixed(1).padStart(8),
    sorted[Math.floor(sorted.length * 0.95)].toFixed(1).padStart(8),
    `${((sorted.filter((value) => value < 5).length / sorted.length) * 100).toFixed(0)} %`.padStart(12),
  );
}
