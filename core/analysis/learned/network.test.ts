import { classify, ensembleLogits, fromHalf, rankingLogits, readEnsemble, softmax, toHalf, type EnsembleFile } from './network';

describe('half-precision numbers (IEEE 754-2008, binary16)', () => {
  test.each([
    [0x3c00, 1],
    [0xc000, -2],
    [0x7bff, 65504],
    [0x0400, 2 ** -14],
    [0x0001, 2 ** -24],
    [0x3555, 0.333251953125],
    [0x0000, 0],
  ])('%d is %d, there and back', (bits, value) => {
    expect(fromHalf(bits)).toBe(value);
    expect(toHalf(value)).toBe(bits);
  });
  test('what lies between goes to the nearest, what is too large to the largest', () => {
    expect(fromHalf(toHalf(0.1))).toBeCloseTo(0.1, 4);
    expect(fromHalf(toHalf(1e9))).toBe(65504);
    expect(fromHalf(toHalf(2047.9))).toBe(2048);
  });
});

const base64 = (values: readonly number[]): string => {
  const bytes = new Uint8Array(values.length * 2);
  values.forEach((value, k) => {
    bytes[2 * k] = toHalf(value) & 255;
    bytes[2 * k + 1] = toHalf(value) >> 8;
  });
  return btoa(String.fromCharCode(...bytes));
};
/** Two inputs, two hidden, two outputs: says which input is larger. */
const file: EnsembleFile = {
  made: 'by hand',
  inputs: 2,
  hidden: 2,
  outputs: 2,
  labels: ['first', 'second'],
  temperature: 1,
  scaling: base64([0, 0, 1, 1]),
  networks: [base64([1, 0, 0, 1, 0, 0, 2, 0, 0, 2, 0, 0])],
};

test('a network written by hand says what it was written to say', () => {
  const [first, second] = classify(readEnsemble(file), [3, 1]);
  expect(first).toBeCloseTo(1 / (1 + Math.exp(-4)), 3);
  expect(first + second).toBeCloseTo(1, 6);
  expect(classify(readEnsemble(file), [-3, 1])[1]).toBeGreaterThan(0.5);
});

test('a temperature of 2 halves the logits; an ensemble answers with the mean', () => {
  expect(classify(readEnsemble({ ...file, temperature: 2 }), [3, 1])[0]).toBeCloseTo(1 / (1 + Math.exp(-2)), 3);
  const silent = base64([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
  expect(classify(readEnsemble({ ...file, networks: [...file.networks, silent] }), [3, 1])[0]).toBeCloseTo(1 / (1 + Math.exp(-2)), 3);
});

test('a ranking asks all networks about what is in question, and the first one alone about the rest', () => {
  /** One output: the first input, twice of it by the second network. */
  const ranking = readEnsemble({
      ...file,
      outputs: 1,
      networks: [base64([1, 0, 0, 1, 0, 0, 4, 0, 0]), base64([1, 0, 0, 1, 0, 0, 8, 0, 0])],
    }),
    inputs = [3, 2.5, 0.5],
    logits = rankingLogits(ranking, inputs.length, (candidate, row) => row.set([inputs[candidate], 0]));
  for (const k of [0, 1]) expect(logits[k]).toBeCloseTo(ensembleLogits(ranking, [inputs[k], 0])[0], 3);
  // 0.5 × 4 lies more than 8 below 3 × 4.
  expect(logits[2]).toBeCloseTo(2, 3);
  expect(rankingLogits(ranking, 0, () => {})).toHaveLength(0);
});

test('one input far off cannot shout', () => expect(classify(readEnsemble(file), [1e9, 1])[0]).toBeCloseTo(1 / (1 + Math.exp(-10)), 3));

test('weights that do not fit their sizes are refused', () => {
  expect(() => readEnsemble({ ...file, inputs: 3 })).toThrow(RangeError);
  expect(() => readEnsemble({ ...file, networks: [base64([1, 2])] })).toThrow(RangeError);
});

test('softmax of large numbers is finite', () => expect([...softmax([1000, 1000])]).toEqual([0.5, 0.5]));
