import { drumLoopTruth } from '../test/generators/truth';
import { breakdown, tempoMistakes } from './breakdown';
import type { Said } from './score';
import type { Truth } from './truth';

const truth = (k: number, changes: Partial<Truth> = {}): Truth =>
  drumLoopTruth({ file: `f${k}`, style: 'drums:four', cond: ['len:exact', 'sf:timgm'], ...changes });
const says = (k: number, tempoBpm: number | null): Said => ({ file: `f${k}`, tempoBpm, family: 'drums' });

test('each slice is scored by its own files, the weakest first; small ones are left out', () => {
  const truths = [
      ...Array.from({ length: 10 }, (_, k) => truth(k)),
      ...Array.from({ length: 10 }, (_, k) => truth(k + 10, { cond: ['len:tail'], meter: '3/4' })),
      truth(20, { cond: ['noise'] }),
    ],
    said = truths.map((_, k) => says(k, k < 10 || k % 2 ? 120 : 60)),
    slices = breakdown(truths, said);
  expect(slices.map(({ name }) => name)).not.toContain('noise');
  expect(slices.map(({ name }) => name)).not.toContain('sf:timgm');
  expect(slices.find(({ name }) => name === 'len:exact')).toMatchObject({ files: 10, tempo: 100, family: 100 });
  expect(slices.find(({ name }) => name === 'len:tail')).toMatchObject({ files: 10, tempo: 50 });
  expect(slices[0].tempo).toBe(50);
});
test('mistakes are named by what they are of the right tempo', () => {
  const tempos = [120, 60, 60, 240, 80, 121.5, 97, null],
    truths = tempos.map((_, k) => truth(k));
  expect(
    Object.fromEntries(
      tempoMistakes(
        truths,
        tempos.map((tempo, k) => says(k, tempo)),
      ),
    ),
  ).toEqual({ half: 2, double: 1, 'another meter (2 : 3, 3 : 4, 1 : 3)': 1, 'a little off': 1, 'anything else': 1, 'none said': 1 });
});
