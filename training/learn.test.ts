import { classify, ensembleLogits, readEnsemble } from '../core/analysis/learned/network';
import { createRandom } from '../core/synth/random';
import { packEnsemble, rescaled, widened, scaled, scaling, trainNetwork, type Group, type Recipe } from './learn';

const recipe: Recipe = { hidden: 12, outputs: 2, epochs: 40, rate: 0.01, decay: 0.001, noise: 0.05, dropout: 0, seed: 5 };
const random = createRandom(9);

/** Points inside and outside of a circle: no line parts them. */
const points = Array.from({ length: 400 }, () => {
  const x = random() * 4 - 2,
    y = random() * 4 - 2;
  return { row: Float32Array.of(x, y), inside: Math.hypot(x, y) < 1.2 };
});
const scale = scaling(points.map(({ row }) => row));
const circle: Group[] = points.map(({ row, inside }) => ({
  rows: [scaled(row, scale)],
  targets: inside ? Float32Array.of(0, 1) : Float32Array.of(1, 0),
  weight: 1,
}));
const share = (changes: Partial<Recipe>): number => {
  const ensemble = readEnsemble(packEnsemble([trainNetwork(circle, { ...recipe, ...changes })], scale, ['out', 'in'], 1, 'test'));
  return points.filter(({ row, inside }) => classify(ensemble, row)[1] > 0.5 === inside).length / points.length;
};

test('a classifier learns what no line parts, with and without blends of examples', () => {
  expect(share({})).toBeGreaterThan(0.94);
  expect(share({ mixup: 0.3 })).toBeGreaterThan(0.85);
});

test('a ranking learns which row of a group is the right one', () => {
  const groups: Group[] = Array.from({ length: 300 }, () => {
    const rows = Array.from({ length: 5 }, () => Float32Array.of(random() * 2 - 1, random() * 2 - 1)),
      // The row whose numbers are nearest to each other.
      best = rows.reduce((k, row, at) => (Math.abs(row[0] - row[1]) < Math.abs(rows[k][0] - rows[k][1]) ? at : k), 0);
    return { rows, targets: Float32Array.from(rows, (_, k) => Number(k === best)), weight: 1 };
  });
  const plain = { mean: new Float32Array(2), deviation: new Float32Array(2).fill(1) },
    ensemble = readEnsemble(packEnsemble([trainNetwork(groups, { ...recipe, outputs: 1 })], plain, ['score'], 1, 'test'));
  const right = groups.filter(({ rows, targets }) => {
    const scores = rows.map((row) => ensembleLogits(ensemble, row)[0]);
    return targets[scores.indexOf(Math.max(...scores))] === 1;
  });
  expect(right.length / groups.length).toBeGreaterThan(0.85);
});

test('where several answers can be right at once, each is learned by itself', () => {
  const sides: Group[] = points.map(({ row, inside }) => ({
    rows: [scaled(row, scale)],
    targets: Float32Array.of(inside ? 1 : 0, row[0] > 0 ? 1 : 0),
    weight: 1,
  }));
  const plain = packEnsemble([trainNetwork(sides, { ...recipe, several: true })], scale, ['inside', 'right'], 1, 'test'),
    ensemble = readEnsemble(plain);
  const shares = [0, 1].map(
    (k) =>
      points.filter(({ row, inside }) => ensembleLogits(ensemble, row)[k] > 0 === (k === 0 ? inside : row[0] > 0)).length / points.length,
  );
  expect(shares[0]).toBeGreaterThan(0.9);
  expect(shares[1]).toBeGreaterThan(0.95);
});

test('the same seed gives the same network, another seed another', () => {
  const weights = (seed: number) => [...trainNetwork(circle.slice(0, 40), { ...recipe, epochs: 2, seed }).hiddenWeights];
  expect(weights(1)).toEqual(weights(1));
  expect(weights(1)).not.toEqual(weights(2));
});

test('a network carried over to another scaling of its inputs says the same', () => {
  const net = trainNetwork(circle, recipe),
    other = { mean: Float32Array.of(0.7, -0.2), deviation: Float32Array.of(3, 0.5) },
    here = readEnsemble(packEnsemble([net], scale, ['out', 'in'], 1, 'test')),
    there = readEnsemble(packEnsemble([rescaled(net, scale, other)], other, ['out', 'in'], 1, 'test'));
  for (const { row } of points.slice(0, 50)) {
    const [one, two] = [ensembleLogits(here, row), ensembleLogits(there, row)];
    expect(two[1] - two[0]).toBeCloseTo(one[1] - one[0], 1);
  }
});

test('networks that get to know more inputs say what they said, whatever the new ones are', () => {
  const here = readEnsemble(packEnsemble([trainNetwork(circle, recipe)], scale, ['out', 'in'], 1, 'test')),
    there = widened(here, 1, 3);
  for (const { row } of points.slice(0, 50)) {
    const [one, two] = [ensembleLogits(here, row), ensembleLogits(there, Float32Array.of(row[0], 5, -9, 0.3, row[1]))];
    expect(two[0]).toBeCloseTo(one[0], 4);
    expect(two[1]).toBeCloseTo(one[1], 4);
  }
});

test('a network whose weights are kept in bytes says nearly the same, in little more than half the room', () => {
  const net = trainNetwork(circle, { ...recipe, hidden: 24 }),
    whole = packEnsemble([net], scale, ['out', 'in'], 1, 'test'),
    bytes = packEnsemble([net], scale, ['out', 'in'], 1, 'test', 8),
    [here, there] = [whole, bytes].map(readEnsemble);
  expect(bytes.bits).toBe(8);
  expect(there.networks[0].hiddenWeights).toHaveLength(here.networks[0].hiddenWeights.length);
  for (let k = 0; k < here.networks[0].hiddenWeights.length; k++) {
    const row = here.networks[0].hiddenWeights.subarray(k - (k % 2), k - (k % 2) + 2),
      step = Math.max(...row.map(Math.abs)) / 127;
    expect(Math.abs(there.networks[0].hiddenWeights[k] - here.networks[0].hiddenWeights[k])).toBeLessThanOrEqual(step * 0.51 + 1e-6);
  }
  for (const { row } of points.slice(0, 50)) {
    const [one, two] = [ensembleLogits(here, row), ensembleLogits(there, row)];
    expect(two[1] - two[0]).toBeCloseTo(one[1] - one[0], 0);
  }
});
