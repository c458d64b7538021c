import { classify } from '../learned/network';
import { model } from '../learned/models';
import { instrumentById } from '../../theory/instruments';
import { nameInstrument, soundVector } from './name-instrument';

let seed = 5;
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5,
  inputs = model('family').mean.length,
  strokes = 98,
  /** Something like a sound: the mean of what the network learned from, moved about. */
  sounds = Array.from({ length: 12 }, (_, k) =>
    Array.from({ length: inputs }, (_value, i) => model('family').mean[i] + k * 0.3 * random() * model('family').deviation[i]),
  ),
  named = (sound: readonly number[]) => nameInstrument(sound.slice(0, inputs - strokes), sound.slice(inputs - strokes));

test('chances of families and of instruments sum to one, and those of a family’s instruments to the family’s', () => {
  for (const sound of sounds) {
    const { instruments, families } = named(sound),
      sum = (list: readonly { probability: number }[]) => list.reduce((all, { probability }) => all + probability, 0);
    expect(sum(families)).toBeCloseTo(1, 6);
    for (const { value, probability } of families)
      expect(sum(instruments.filter((each) => instrumentById(each.value)?.family === value))).toBeCloseTo(probability, 5);
  }
});
test('both networks have the same say: a family that one of them rules out is unlikely, however sure the other is', () => {
  let told = 0;
  for (const sound of sounds) {
    const vector = soundVector(sound.slice(0, inputs - strokes), sound.slice(inputs - strokes)),
      byFamily = classify(model('family'), vector),
      byInstrument = classify(model('instrument'), vector),
      { families } = named(sound);
    for (const { value, probability } of families) {
      const own = byFamily[model('family').labels.indexOf(value)],
        other = model('instrument').labels.reduce((sum, id, k) => sum + (instrumentById(id)?.family === value ? byInstrument[k] : 0), 0);
      if (Math.min(own, other) < 1e-4) expect(probability).toBeLessThan(0.25);
      if (own > 0.6 && other > 0.6) expect(probability).toBeGreaterThan(0.6);
      told += Number(own > 0.6 && other > 0.6);
    }
  }
  expect(told).toBeGreaterThan(0);
});
test('what rhythm was learned with is the word of the network of families alone', () => {
  const [sound] = sounds,
    vector = soundVector(sound.slice(0, inputs - strokes), sound.slice(inputs - strokes));
  expect([...named(sound).familyScores]).toEqual([...classify(model('family'), vector)]);
});
