import type { FactValues } from '../attributes/registry';
import { evidence, type Attribute, type Evidence } from '../facts';
import type { Source } from '../sources';
import { fuse, fuseAll } from './fuse';

const says = <A extends Attribute>(attribute: A, source: Source, ...candidates: [FactValues[A], number][]): Evidence<A> =>
  evidence(
    attribute,
    source,
    candidates.map(([value, probability]) => ({ value, probability })),
    `${source} says so`,
  );
const tempo = (source: Source, ...candidates: [number, number][]) => says('tempo', source, ...candidates);

test('without evidence there is no answer', () => {
  expect(fuse('tempo', [])).toBeNull();
  expect(fuse('tempo', [says('kind', 'sound', ['loop', 1])])).toBeNull();
  expect(fuse('tempo', [tempo('sound')])).toBeNull();
});
test('a lone witness is believed as it is', () => {
  const chosen = fuse('tempo', [tempo('sound', [120, 0.7], [60, 0.3])]);
  expect(chosen).toMatchObject({ value: 120, source: 'sound' });
  expect(chosen?.confidence).toBeCloseTo(0.7, 6);
  expect(chosen?.alternatives.map(({ value }) => value)).toEqual([60]);
});
test('two that agree are surer than either, two that quarrel less sure than the surer', () => {
  const alone = 0.8,
    agree = fuse('tempo', [tempo('sound', [120, 0.8], [60, 0.2]), tempo('length', [120, 0.8], [60, 0.2])]),
    quarrel = fuse('tempo', [tempo('sound', [120, 0.8], [60, 0.2]), tempo('length', [120, 0.2], [60, 0.8])]);
  expect(agree?.confidence).toBeGreaterThan(alone);
  expect(quarrel?.confidence).toBeLessThan(alone);
});
test('a name that says half is overruled by a sound that is sure, and a doubtful sound by the name', () => {
  const name = tempo('file-name', [70, 0.9], [140, 0.035]);
  expect(fuse('tempo', [tempo('sound', [140, 0.999], [70, 0.001]), name])?.value).toBe(140);
  expect(fuse('tempo', [tempo('sound', [140, 0.6], [70, 0.4]), name])?.value).toBe(70);
});
test('a whole number in a name stands for the fraction that is measured', () => {
  const chosen = fuse('tempo', [tempo('sound', [93.5, 0.5], [140.25, 0.5]), tempo('file-name', [93, 0.9])]);
  expect(chosen?.value).toBe(93.5);
});
test('a name that says what the sound means exactly gives the value as it is written', () =>
  expect(fuse('tempo', [tempo('sound', [124.02, 0.9]), tempo('file-name', [124, 0.9])])?.value).toBe(124));
test('a person outranks all, the newest one of two, and what was heard stays as rivals', () => {
  const heard = [tempo('sound', [120, 0.99], [60, 0.01]), tempo('file-name', [120, 0.9])],
    chosen = fuse('tempo', [tempo('person', [90, 1]), ...heard, tempo('person', [60, 1])]);
  expect(chosen).toMatchObject({ value: 60, confidence: 1, source: 'person' });
  expect(chosen?.alternatives[0].value).toBe(120);
  expect(chosen?.reasons[0]).toBe('person says so');
});
test('a sure sound and a name that means the same make it surer; the sound alone is as sure as it is', () => {
  const sound = says('instrument', 'sound', ['electric-piano', 0.9], ['piano', 0.08], ['organ', 0.02]);
  expect(fuse('instrument', [sound])?.confidence).toBeCloseTo(0.9, 6);
  expect(fuse('instrument', [sound, says('instrument', 'file-name', ['electric-piano', 0.95])])?.confidence).toBeGreaterThan(0.98);
});
test('a sound that is sure of another instrument does not outvote the name that means one', () => {
  const chosen = fuse('instrument', [
    says('instrument', 'sound', ['hats', 0.97], ['snare', 0.03]),
    says('instrument', 'file-name', ['kick', 0.95]),
  ]);
  expect(chosen?.value).toBe('kick');
  expect(chosen?.confidence).toBeLessThan(0.85);
});
test('the chances of all values sum to one, the likeliest first, whatever is said', () => {
  const chances = fuseAll('key', [
    says('key', 'sound', [{ tonic: 0, mode: 'major' }, 0.4], [{ tonic: 9, mode: 'minor' }, 0.35], ['unpitched', 0.05]),
    says('key', 'file-name', [{ tonic: 9, mode: 'minor' }, 0.9]),
    says('key', 'set', [{ tonic: 9, mode: 'minor' }, 0.6], [{ tonic: 4, mode: 'minor' }, 0.2]),
    says('key', 'person', [{ tonic: 5, mode: 'major' }, 1]),
  ]);
  expect(chances.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
  expect(chances[0].value).toEqual({ tonic: 9, mode: 'minor' });
  for (let k = 1; k < chances.length; k++) expect(chances[k].probability).toBeLessThanOrEqual(chances[k - 1].probability);
  expect(chances.some(({ value }) => typeof value === 'object' && value.tonic === 5)).toBe(false);
});
test('the source that is named is the one that speaks most for the value', () => {
  expect(fuse('tempo', [tempo('sound', [120, 0.4], [60, 0.6]), tempo('file-name', [120, 0.97])])?.source).toBe('file-name');
  expect(fuse('tempo', [tempo('sound', [120, 0.99]), tempo('folder', [120, 0.5])])?.source).toBe('sound');
});
