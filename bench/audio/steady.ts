import { fitCycle } from '../../core/stretch/fit';
import { semitonesToRatio } from '../../core/units/pitch';
import { formantsOf, vowelLap } from './formants';
import { mean, partialsOf, spectralDistanceDb } from './measures';
import { formantReference, references, runReference } from './references';

const rateHz = 44100;
type Fit = (sound: readonly Float32Array[], targetFrames: number, shiftSemitones: number) => readonly Float32Array[];

const reference =
  (name: string): Fit =>
  (sound, targetFrames, shift) =>
    runReference([...references, formantReference].find((each) => each.name === name) ?? references[0], sound, targetFrames, shift).sound;

const makers = (withReferences: boolean): [string, Fit][] => [
  ['tonal', (sound, targetFrames, shiftSemitones) => fitCycle(sound, [], { engine: 'tonal', targetFrames, shiftSemitones })],
  ...(withReferences ? references.map(({ name }): [string, Fit] => [name, reference(name)]) : []),
];

/** The partials of a chord of four notes, sixteen each: whole periods in four seconds, then moved. */
const chordPartialsHz = (shiftSemitones: number): number[] =>
  [50, 57, 62, 65].flatMap((note) => {
    const hz = Math.round(440 * 2 ** ((note - 69) / 12) * 4) / 4;
    return Array.from({ length: 16 }, (_, k) => hz * (k + 1) * semitonesToRatio(shiftSemitones));
  });

function chordLap(): Float32Array {
  const sound = new Float32Array(4 * rateHz);
  chordPartialsHz(0).forEach((hz, k) => {
    for (let i = 0; i < sound.length; i++) sound[i] += (0.08 / ((k % 16) + 1)) * Math.sin((2 * Math.PI * hz * i) / rateHz + k * k);
  });
  return sound;
}

/** How clean and how steady a held chord comes out. */
export function steadyChord(withReferences: boolean): void {
  const conditions: [ratio: number, shift: number][] = [
    ...[0.5, 0.667, 0.8, 1.25, 1.5, 2].map((ratio): [number, number] => [ratio, 0]),
    ...[5, -5, 12, -12].map((shift): [number, number] => [1, shift]),
  ];
  console.log('\nA held chord: share that is tones, dB | wobble of its partials      stretched          ±5             ±12');
  for (const [name, fit] of makers(withReferences)) {
    const found = conditions.map(([ratio, shift]) => {
      const sound = chordLap(),
        made = fit([sound, sound], Math.round(sound.length * ratio), shift)[0];
      return partialsOf(made, chordPartialsHz(shift));
    });
    const part = (from: number, to: number) =>
      `${mean(found.slice(from, to).map((each) => each.explainedDb)).toFixed(1)} | ${mean(found.slice(from, to).map((each) => each.wobble)).toFixed(2)}`.padStart(
        15,
      );
    console.log(name.padEnd(58), part(0, 6), part(6, 8), part(8, 10));
  }
}

/** Ten notes one after the other, harmonic, dying away; the same at another tempo and pitch is the truth. */
function lineLap(secondsANote: number, shiftSemitones: number): Float32Array {
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
  console.log('\nA single line: spectral distance, dB          × 1.25    × 0.8       +5       −5');
  for (const [name, fit] of makers(withReferences)) {
    const cells = (
      [
        [1.25, 0],
        [0.8, 0],
        [1, 5],
        [1, -5],
      ] as const
    ).map(([ratio, shift]) => {
      const source = lineLap(0.4, 0),
        truth = lineLap(0.4 * ratio, shift);
      return spectralDistanceDb(truth, fit([source, source], truth.length, shift)[0])
        .toFixed(2)
        .padStart(8);
    });
    console.log(name.padEnd(42), cells.join(' '));
  }
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
  const rows: [string, Fit][] = [
    ['voice', (sound, targetFrames, shiftSemitones) => fitCycle(sound, [], { engine: 'voice', targetFrames, shiftSemitones })],
    ...(withReferences
      ? ([
          ['rubberband R3 -F', reference('rubberband R3 -F')],
          ['rubberband R3', reference('rubberband R3')],
        ] as [string, Fit][])
      : []),
  ];
  for (const [name, fit] of rows) {
    const moved: number[] = [];
    for (const vowel of vowels)
      for (const hz of [100, 125, 165])
        for (const shift of [-5, -3, 3, 5]) {
          const lap = vowelLap(hz, vowel, 2),
            made = fit([lap, lap], lap.length, shift)[0];
          formantsOf(made, hz * semitonesToRatio(shift), vowel).forEach((centre, k) => moved.push(Math.abs(centre / vowel[k] - 1) * 100));
        }
    print(name, moved);
  }
  const sent: number[] = [];
  for (const vowel of vowels)
    for (const hz of [100, 125, 165])
      for (const formantSemitones of [-12, -5, 5, 12]) {
        const lap = vowelLap(hz, vowel, 2),
          wanted = vowel.map((each) => each * semitonesToRatio(formantSemitones));
        if (wanted[0] < hz * 2) continue;
        const [made] = fitCycle([lap], [], { engine: 'voice', targetFrames: lap.length, shiftSemitones: 0, formantSemitones });
        formantsOf(made, hz, wanted).forEach((centre, k) => sent.push(Math.abs(centre / wanted[k] - 1) * 100));
      }
  print('voice, character by −12 … 12', sent);
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
