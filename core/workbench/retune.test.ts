import { loadTransforms } from '../dsp/real-fft';
import { formantsOf, vowelCycle } from '../../test/measures/formants';
import { resampleCyclic } from '../dsp/resample';
import { noteToHz } from '../units/pitch';
import { projectRateHz } from '../units/time';
import type { BenchSound } from './bench-sound';
import { lineOf, nearestIn, retune, retuneLine, type LineStep } from './retune';

beforeAll(loadTransforms);

const line: LineStep = { kind: 'line', strength: 1, straightness: 1, key: null, moves: {}, formantSemitones: 0 };

interface Sung {
  readonly note: number;
  readonly cents: number;
}

/** How strong each harmonic of a pitch is under the formants, up to 7 kHz. */
const harmonicGains = (hz: number, formantsHz: readonly number[]): number[] =>
  Array.from({ length: Math.ceil(7000 / hz) - 1 }, (_, k) =>
    formantsHz.reduce((gain, formant, f) => gain + 0.7 ** f / (1 + (((k + 1) * hz - formant) / (60 + 40 * f)) ** 2), 0),
  );

/** Pulses through three formants, with pauses: as sung, each note off by so many cents and with vibrato. */
function sing(notes: readonly Sung[], vibratoCents: number, formantsHz: readonly number[] = [650, 1080, 2650]): BenchSound {
  const noteFrames = Math.round(0.5 * projectRateHz),
    gap = Math.round(0.06 * projectRateHz),
    plane = new Float32Array(notes.length * (noteFrames + gap) + 4000);
  let phase = 0,
    gains: readonly number[] = [];
  for (const [k, { note, cents }] of notes.entries())
    for (let i = 0; i < noteFrames; i++) {
      const t = i / projectRateHz,
        vibrato = t < 0.15 ? 0 : vibratoCents * Math.sin(2 * Math.PI * 5.5 * t),
        hz = noteToHz(note + (cents + vibrato) / 100);
      phase += hz / projectRateHz;
      // The formants stand still for 64 frames; cosines of multiples come one from the two before.
      if (i % 64 === 0) gains = harmonicGains(hz, formantsHz);
      const once = Math.cos(2 * Math.PI * phase);
      let value = 0,
        before = 1,
        now = once;
      for (const gain of gains) {
        value += gain * now;
        [before, now] = [now, 2 * once * now - before];
      }
      plane[2000 + k * (noteFrames + gap) + i] = 0.12 * value * Math.min(1, i / 400, (noteFrames - i) / 800);
    }
  return {
    channels: [plane],
    tempoBpm: null,
    beats: null,
    barBeats: 4,
    key: null,
    startFrame: 0,
    onsetFrames: notes.map((_, k) => 2000 + k * (noteFrames + gap)),
    isCycle: false,
  };
}

/** Mean deviation from what was to be sung, cents, over what is voiced, by the pitch tracker. */
function errorOf(sound: BenchSound, notes: readonly Sung[], wanted: (note: number) => number = (note) => note): number {
  const { track } = lineOf(sound),
    each = (0.5 + 0.06) * projectRateHz;
  let [sum, count] = [0, 0];
  for (let frame = 0; frame < track.frameCount; frame++) {
    const at = frame * track.hopSeconds * projectRateHz - 2000,
      k = Math.floor(at / each),
      within = (at - k * each) / projectRateHz;
    // The first and last 50 ms of a note are its own.
    if (!notes[k] || within < 0.05 || within > 0.45 || track.notes[frame] === 0) continue;
    sum += Math.abs(track.notes[frame] - wanted(notes[k].note)) * 100;
    count++;
  }
  return sum / count;
}

const melodies: readonly (readonly Sung[])[] = [
  [
    { note: 57, cents: 45 },
    { note: 60, cents: -40 },
    { note: 62, cents: 25 },
    { note: 55, cents: -30 },
  ],
  [
    { note: 64, cents: -38 },
    { note: 67, cents: 30 },
    { note: 62, cents: 48 },
    { note: 60, cents: 12 },
  ],
  [
    { note: 48, cents: 20 },
    { note: 50, cents: -45 },
    { note: 43, cents: 33 },
    { note: 45, cents: -22 },
  ],
];

test.each(melodies.map((notes, k) => [k, notes] as const))(
  'a sung line that is off, with vibrato, is drawn to its notes: mean error ≤ 5 cents (%d)',
  (_, notes) => {
    const sung = sing(notes, 25),
      before = errorOf(sung, notes),
      after = errorOf(retuneLine(sung, line), notes);
    expect(before).toBeGreaterThan(20);
    expect(after).toBeLessThanOrEqual(5);
  },
);
test('at half the strength it is half as far off, and its vibrato stays where that is wanted', () => {
  const [notes] = melodies,
    sung = sing(notes, 0),
    half = errorOf(retuneLine(sung, { ...line, strength: 0.5, straightness: 0 }), notes);
  expect(Math.abs(half - errorOf(sung, notes) / 2)).toBeLessThan(4);
});
test('a note is moved by hand, the others are not', () => {
  const [notes] = melodies,
    made = retuneLine(sing(notes, 0), { ...line, moves: { 1: 2 } });
  expect(
    errorOf(
      made,
      notes.map((each, k) => (k === 1 ? { ...each, note: each.note + 2 } : each)),
    ),
  ).toBeLessThanOrEqual(5);
});
test('notes begin where they began, within 5 ms', () => {
  const [notes] = melodies,
    sung = sing(notes, 25),
    made = retuneLine(sung, line),
    startsOf = ({ channels: [plane] }: BenchSound) =>
      sung.onsetFrames.map((onset) => {
        for (let i = onset - 800; i < onset + 2000; i++) if (Math.abs(plane[i] ?? 0) > 0.02) return i;
        return NaN;
      });
  for (const [k, start] of startsOf(made).entries()) expect(Math.abs(start - startsOf(sung)[k])).toBeLessThan(0.005 * projectRateHz);
});
test('its formants move by less than 3 %, where resampling moves them with the pitch; or as far as is asked for', () => {
  const formantsHz = [650, 1080, 2650],
    hz = noteToHz(45),
    vowel = vowelCycle(hz, formantsHz, 2),
    sung: BenchSound = { ...sing([], 0), channels: [vowel], onsetFrames: [0] },
    made = (step: Partial<LineStep>) => retuneLine(sung, { ...line, ...step }).channels[0].subarray(8000, 78_000),
    was = formantsOf(vowel.subarray(8000, 78_000), hz, formantsHz),
    up = formantsOf(made({ moves: { 0: 4 } }), hz * 2 ** (4 / 12), formantsHz),
    plain = formantsOf(
      resampleCyclic(vowel, Math.round(vowel.length / 2 ** (4 / 12))).subarray(6000, 60_000),
      hz * 2 ** (4 / 12),
      formantsHz.map((each) => each * 2 ** (4 / 12)),
    );
  for (const k of [0, 1, 2]) {
    expect(Math.abs(up[k] / was[k] - 1)).toBeLessThan(0.03);
    expect(plain[k] / was[k]).toBeGreaterThan(1.15);
  }
  const ratio = 2 ** (-4 / 12),
    darker = formantsOf(
      made({ formantSemitones: -4 }),
      hz,
      formantsHz.map((each) => each * ratio),
    );
  // It is as loud as it was.
  const power = (plane: Float32Array) => plane.reduce((sum, value) => sum + value * value, 0);
  expect(Math.abs(10 * Math.log10(power(made({ formantSemitones: -4 })) / power(vowel.subarray(8000, 78_000))))).toBeLessThan(1);
  for (const k of [0, 1, 2]) expect(Math.abs(darker[k] / (was[k] * ratio) - 1)).toBeLessThan(0.06);
});
test('silence, noise and a pause stay what they are', () => {
  const noise = Float32Array.from({ length: 20_000 }, (_, i) => Math.sin(i * i * 0.37) * 0.2),
    sound = { ...sing([], 0), channels: [noise] },
    [made] = retuneLine(sound, line).channels;
  expect(made.length).toBe(noise.length);
  const off = made.reduce((sum, value, i) => sum + (value - noise[i]) ** 2, 0) / noise.reduce((sum, value) => sum + value * value, 0);
  expect(10 * Math.log10(off + 1e-12)).toBeLessThan(-10);
  expect([...retuneLine({ ...sound, channels: [new Float32Array(9000)] }, line).channels[0]].every((value) => value === 0)).toBe(true);
});
test('in a key the nearest note of it is meant', () => {
  const cMinor = { tonic: 0, mode: 'minor' } as const;
  expect([60.2, 61.2, 64.4, 66, 70.6].map((pitch) => nearestIn(cMinor, pitch))).toEqual([60, 62, 65, 65, 70]);
  expect(nearestIn(null, 61.2)).toBe(61);
});
test('the whole by semitones keeps its length, with its formants or with the pitch', () => {
  const sound = sing(melodies[0], 0);
  for (const keepsFormants of [true, false]) {
    const made = retune(sound, { kind: 'retune', semitones: 3, keepsFormants, formantSemitones: 0 });
    expect(made.channels[0].length).toBe(sound.channels[0].length);
    expect(
      errorOf(
        made,
        melodies[0].map(({ note, cents }) => ({ note: note + 3, cents })),
        (note) => note,
      ),
    ).toBeLessThan(50);
  }
});
