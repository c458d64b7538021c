import { chord, rateHz, sine } from '../../test/generators/signals';
import { stretchModeRows } from '../../core/stretch/stretch-modes';
import { saneFit } from './sanity';
import { demoSpecimen, demoLoops, madeUpSpecimens, secondsOf } from './sanity-specimens';
import { broken, fitsOfSpecimen } from './sanity-run';

const frames = rateHz,
  held = () => chord([48, 60, 64], 1),
  judged = (made: Float32Array, source = held(), engine: 'tonal' | 'percussive' = 'tonal') => {
    const row = {
      ...saneFit([source], [made], { engine, targetFrames: made.length, shiftSemitones: 0 }),
      maker: 'x',
      stretchMode: engine,
      name: 'x',
    };
    return broken(row);
  };

// The measures themselves: each trouble is found, and what has none passes.
test('a copy is sane', () => expect(judged(held())).toEqual([]));
test('one sample of 132, a few frames before the seam, is seen by peak and seam', () => {
  const burst = held();
  burst[frames - 25] = 132;
  expect(judged(burst)).toEqual(expect.arrayContaining(['peak', 'seam']));
});
test('a swell over the seam that peaks nowhere is seen', () => {
  const swelling = Float32Array.from(sine(220, 1), (value, i) => value * (Math.min(i, frames - i) < 400 ? 1.4 : 0.7));
  expect(judged(swelling, sine(220, 1))).toContain('seam');
});
test('2 dB less of everything, 4 dB less of the highs, a missing frame, a NaN are seen', () => {
  expect(judged(held().map((value) => value * 0.79))).toContain('level');
  const bright = Float32Array.from(sine(100, 1), (value, i) => value + 0.2 * Math.sin((2 * Math.PI * 5000 * i) / rateHz)),
    dull = Float32Array.from(sine(100, 1), (value, i) => value + 0.12 * Math.sin((2 * Math.PI * 5000 * i) / rateHz));
  expect(judged(dull, bright)).toEqual(['band']);
  expect(
    broken({
      ...saneFit([held()], [held().slice(1)], { engine: 'tonal', targetFrames: frames, shiftSemitones: 0 }),
      maker: 'x',
      stretchMode: 'tonal',
      name: 'x',
    }),
  ).toContain('length');
  const ill = held();
  ill[100] = NaN;
  expect(judged(ill)).toContain('no number');
});
test('hits in a bar twice as long are 3 dB quieter in the mean, and that is no fault', () => {
  const hit = Float32Array.from({ length: frames }, (_, i) => Math.exp(-i / 900) * Math.sin(i * 0.05)),
    longer = new Float32Array(2 * frames);
  longer.set(hit);
  expect(judged(longer, hit, 'percussive')).toEqual([]);
  expect(judged(longer, hit, 'tonal')).toContain('level');
});

// The short form of what `bench:audio` does over all loops.
test.each(madeUpSpecimens().map((specimen) => [specimen.name, specimen] as const))(
  '%s: no engine bursts, at any length or pitch',
  (_, specimen) => {
    for (const { mode: engine } of stretchModeRows)
      for (const row of fitsOfSpecimen(specimen, engine, [0.5, 1.06], [-12])) {
        const hurts = broken(row).filter((limit) => ['peak', 'length', 'no number'].includes(limit));
        expect([row.name, engine, hurts]).toEqual([row.name, engine, []]);
      }
  },
);

const everyLoop = demoLoops(),
  sequenced = ['drums', 'tops', 'kick'];
/** Each engine's loops and all hard-hitting ones are among them: the shortest of each player, of what is sequenced the shortest four. */
const some = everyLoop.filter((spec) => {
  const alike = everyLoop.filter((other) => other.player === spec.player).sort((a, b) => secondsOf(a) - secondsOf(b));
  return alike.indexOf(spec) < (sequenced.includes(spec.player) ? 4 : 1);
});
test.each(some.map((spec) => [spec.path, spec] as const))('%s is fitted without a burst, at its level', (_, spec) => {
  const specimen = demoSpecimen(spec);
  for (const row of fitsOfSpecimen(specimen, specimen.stretchMode, [0.968], [3])) {
    const hurts = broken(row).filter((limit) => limit !== 'band');
    expect([row.name, hurts]).toEqual([row.name, []]);
  }
});
