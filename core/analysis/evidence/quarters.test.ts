import { evidence, type Evidence } from '../facts';
import { chooseFacts } from './choose';
import { evidenceFromPath } from './from-names';
import { withQuarters } from './quarters';

const reading = (tempoBpm: number, meter: '4/4' | '3/4' | '6/8', probability: number) => ({
  tempoBpm,
  meter,
  probability,
  bars: 2,
  beats: meter === '6/8' ? 4 : meter === '3/4' ? 6 : 8,
  startSeconds: 0,
});
const named = evidenceFromPath('Pack/Sway 144 bpm.wav');
const chance = (all: readonly Evidence[], tempoBpm: number): number =>
  all
    .filter((each): each is Evidence<'tempo'> => each.attribute === 'tempo')
    .flatMap(({ candidates }) => candidates)
    .filter(({ value }) => Math.abs(value / tempoBpm - 1) < 0.004)
    .reduce((sum, { probability }) => sum + probability, 0);

test('a 6/8 heard at two thirds of what is stated makes quarters likely', () => {
  const wide = withQuarters(named, [reading(96, '6/8', 0.6), reading(144, '3/4', 0.4)]);
  expect(chance(wide, 96)).toBeGreaterThan(0.25);
  expect(chance(wide, 96) / chance(wide, 144)).toBeCloseTo(0.5, 6);
  expect(wide.find(({ attribute }) => attribute === 'tempo')?.reason).toBe('name says 144, perhaps in quarters');
});

test('no 6/8 heard there: what is stated stays as it is', () => {
  const heard = [48, 72, 96, 144, 192, 288].map((tempo) => reading(tempo, '4/4', 0.1)),
    same = withQuarters(named, heard);
  expect(same).toEqual(named);
  expect(chance(same, 96)).toBe(0);
});

test('nothing heard there: a 6/8 is as likely as it ever is', () => {
  const guess = withQuarters(named, []);
  expect(chance(guess, 96)).toBeGreaterThan(0.01);
  expect(chance(guess, 96)).toBeLessThan(0.03);
  expect(guess.map(({ reason }) => reason)).toEqual(named.map(({ reason }) => reason));
});

test('what is stated sums to as much as before', () => {
  const sum = (all: readonly Evidence[]) =>
    all
      .filter(({ attribute }) => attribute === 'tempo')
      .flatMap(({ candidates }) => candidates)
      .reduce((total, { probability }) => total + probability, 0);
  expect(sum(withQuarters(named, [reading(96, '6/8', 0.5), reading(144, '6/8', 0.3), reading(48, '6/8', 0.2)]))).toBeCloseTo(sum(named), 9);
});

test('only what states a tempo is read so: the sound and a person mean beats', () => {
  const others = [
    evidence('tempo', 'sound', [{ value: 144, probability: 0.9 }], 'heard'),
    evidence('tempo', 'person', [{ value: 144, probability: 1 }], 'said'),
  ] as Evidence[];
  expect(withQuarters(others, [reading(96, '6/8', 1)])).toEqual(others);
});

test('a 6/8 that is named by its quarters is known, one in 3/4 at the same number as well', () => {
  const loop = evidence('kind', 'sound', [{ value: 'loop', probability: 0.99 }], ''),
    heard = (sixEight: number) =>
      evidence(
        'tempo',
        'sound',
        [
          { value: 96, probability: sixEight },
          { value: 144, probability: 1 - sixEight },
        ],
        'heard',
      );
  const choose = (sixEight: number) => {
    const readings = [reading(96, '6/8', sixEight), reading(144, '3/4', 1 - sixEight)];
    return chooseFacts([...withQuarters(named, readings), loop, heard(sixEight)], { firstBarSeconds: 0, lengthSeconds: 2.5, readings });
  };
  expect(choose(0.8)).toMatchObject({ tempoBpm: 96, meter: '6/8' });
  expect(choose(0.3)).toMatchObject({ tempoBpm: 144, meter: '3/4' });
});
