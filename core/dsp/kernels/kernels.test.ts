/** @jest-environment node */
import { execFileSync } from 'node:child_process';
import { createRandom } from '../../synth/random';
import { KernelNumbers, kernels } from './kernels';
import { kernelsBase64 } from './kernels-wasm';

const random = createRandom(3),
  numbers = (count: number): Float32Array => Float32Array.from({ length: count }, () => random() * 2 - 1),
  close = (found: ArrayLike<number>, wanted: ArrayLike<number>, within = 1e-4): void => {
    for (let k = 0; k < wanted.length; k++) expect(Math.abs(found[k] - wanted[k])).toBeLessThan(within);
  };

test('what is committed is what the source compiles to', () => {
  // The compiler is a module of its own kind, which is loaded in a process of its own.
  const made = execFileSync(process.execPath, [
    '--input-type=module',
    '-e',
    'import { compileKernels } from "./scripts/lib/kernels.mjs"; process.stdout.write((await compileKernels()).module.toString("base64"))',
  ]).toString();
  expect(made).toBe(kernelsBase64);
});

test('numbers keep their place and their values while the memory grows', () => {
  const early = KernelNumbers.of([1, 2, 3]);
  expect(early.at % 16).toBe(0);
  const large = new KernelNumbers(3_000_000);
  large.view.fill(7);
  expect([...early.view]).toEqual([1, 2, 3]);
  expect(large.view[2_999_999]).toBe(7);
  expect(large.at).toBeGreaterThan(early.at);
});

test('products, number by number', () => {
  const [a, b] = [numbers(64), numbers(64)],
    out = new KernelNumbers(64);
  kernels().multiply(KernelNumbers.of(a).at, KernelNumbers.of(b).at, out.at, 64);
  close(
    out.view,
    a.map((value, k) => value * b[k]),
  );
});

test.each([
  [33, 32],
  [17, 32],
])('squared magnitudes of %i bins of a spectrum of twice %i', (bins, half) => {
  const spectrum = numbers(2 * half),
    out = new KernelNumbers(bins);
  kernels().powers(KernelNumbers.of(spectrum).at, out.at, bins, half, 0.5);
  const wanted = Float32Array.from({ length: bins }, (_, k) => {
    if (k === 0) return spectrum[0] ** 2 * 0.5;
    return (k === half ? spectrum[1] ** 2 : spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2) * 0.5;
  });
  close(out.view, wanted);
});

test('sums over bands that overlap', () => {
  const power = numbers(40),
    bands = [
      [0, 3],
      [2, 5],
      [30, 10],
    ],
    shares = numbers(18),
    out = new KernelNumbers(3);
  kernels().bandSums(
    KernelNumbers.of(power).at,
    KernelNumbers.of(new Float32Array(Uint32Array.from(bands.flat()).buffer)).at,
    KernelNumbers.of(shares).at,
    out.at,
    3,
    2,
  );
  let at = 0;
  const wanted = bands.map(([from, count]) => {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += power[from + k] * shares[at++];
    return sum * 2;
  });
  close(out.view, wanted);
});

test.each([4, 8, 12, 156])('a layer of %i inputs, cut off at its floor', (inputs) => {
  const rows = 7,
    [weights, bias, x] = [numbers(rows * inputs), numbers(rows), numbers(inputs)],
    out = new KernelNumbers(rows),
    wanted = Float32Array.from(bias, (start, row) => x.reduce((sum, value, k) => sum + value * weights[row * inputs + k], start));
  const [w, b, v] = [weights, bias, x].map((values) => KernelNumbers.of(values).at);
  kernels().layer(w, b, v, out.at, inputs, rows, -Infinity);
  close(out.view, wanted);
  kernels().layer(w, b, v, out.at, inputs, rows, 0);
  close(
    out.view,
    wanted.map((value) => Math.max(0, value)),
  );
});

test('non-negative weights are found again from what they add up to', () => {
  const count = 6,
    stride = 8,
    truth = [0, 2, 0, 1, 0, 0.5],
    gram = new Float32Array(count * stride),
    // Neighbours look alike, as notes of neighbouring pitch do not quite.
    alike = (a: number, b: number) => 0.4 ** Math.abs(a - b);
  for (let a = 0; a < count; a++) for (let b = 0; b < count; b++) gram[a * stride + b] = alike(a, b);
  const target = truth.map((_, a) => truth.reduce((sum, value, b) => sum + alike(a, b) * value, 0)),
    x = KernelNumbers.of([...truth.map(() => 0.5), 0, 0]);
  kernels().fitWeights(x.at, KernelNumbers.of(target).at, KernelNumbers.of(gram).at, count, stride, 400);
  close(x.view, truth, 0.06);
});

test('differences of a sine fall to nothing at its period, by way of the correlation', () => {
  const window = 64,
    lags = 40,
    period = 20,
    piece = Float32Array.from({ length: 2 * window }, (_, i) => Math.sin((2 * Math.PI * i) / period)),
    correlation = Float32Array.from({ length: lags }, (_, lag) => {
      let sum = 0;
      for (let i = 0; i < window; i++) sum += piece[i] * piece[i + lag];
      return sum * 4;
    }),
    out = new KernelNumbers(lags);
  const energy = kernels().differences(KernelNumbers.of(piece).at, KernelNumbers.of(correlation).at, out.at, window, lags, 1 / 4);
  expect(energy).toBeCloseTo(
    piece.reduce((sum, value) => sum + value * value, 0),
    3,
  );
  expect(out.view[0]).toBe(1);
  expect(out.view[period]).toBeLessThan(1e-3);
  expect(out.view[period / 2]).toBeGreaterThan(1);
});

test('the product with a conjugate turns two spectra into that of their correlation', () => {
  const [a, b] = [numbers(16), numbers(16)],
    out = KernelNumbers.of(b);
  kernels().conjugateProduct(KernelNumbers.of(a).at, out.at, 16);
  const wanted = Float32Array.from(b, (_, k) => {
    if (k < 2) return a[k] * b[k];
    const even = k - (k % 2),
      [ar, ai, br, bi] = [a[even], a[even + 1], b[even], b[even + 1]];
    return k % 2 === 0 ? br * ar + bi * ai : bi * ar - br * ai;
  });
  close(out.view, wanted);
});

test('two channels are resampled to the last bit as a plain loop does it', () => {
  const taps = 8,
    phases = 16,
    count = 50,
    step = 1.37,
    [first, narrow] = [10, 0.7],
    base = Math.floor(first * step),
    source = numbers(2 * (Math.ceil(count * step) + taps + 2)),
    rows = Float64Array.from({ length: (phases + 1) * taps }, () => random() - 0.5),
    out = new KernelNumbers(2 * count);
  kernels().resample(
    KernelNumbers.of(source).at,
    KernelNumbers.of(new Float32Array(rows.buffer)).at,
    out.at,
    count,
    first,
    base,
    step,
    phases,
    narrow,
    taps,
  );
  for (let i = 0; i < count; i++) {
    const position = (first + i) * step,
      centre = Math.floor(position),
      phase = (position - centre) * phases,
      row = Math.floor(phase);
    const sums = [0, 0];
    for (let tap = 0; tap < taps; tap++) {
      const a = row * taps + tap,
        weight = rows[a] + (rows[a + taps] - rows[a]) * (phase - row);
      for (const channel of [0, 1]) sums[channel] += source[2 * (centre - base + tap) + channel] * weight;
    }
    expect([...out.view.subarray(2 * i, 2 * i + 2)]).toEqual(sums.map((sum) => Math.fround(sum * narrow)));
  }
});

test('a frame by its window is added to what is there, to the last bit', () => {
  const [frame, window, before] = [numbers(34), numbers(34), numbers(34)],
    sum = KernelNumbers.of(before);
  kernels().overlapAdd(KernelNumbers.of(frame).at, KernelNumbers.of(window).at, sum.at, 34, 0.3);
  expect([...sum.view]).toEqual([...before.map((value, k) => value + frame[k] * window[k] * 0.3)]);
});

test('regions of a spectrum are turned as complex numbers; what lies before the first stays', () => {
  const spectrum = numbers(24),
    starts = [1, 4, 5, 12],
    angles = [0.3, -2, 1.1],
    out = KernelNumbers.of(new Float32Array(24).fill(9));
  kernels().turnRegions(
    KernelNumbers.of(spectrum).at,
    out.at,
    KernelNumbers.of(starts).at,
    KernelNumbers.of(angles.flatMap((angle) => [Math.cos(angle), Math.sin(angle)])).at,
    3,
  );
  const wanted = Float32Array.from({ length: 24 }, (_, i) => {
    const bin = i >> 1,
      region = starts.findLastIndex((start) => start <= bin);
    if (region < 0) return 9;
    const [re, im] = [spectrum[2 * bin], spectrum[2 * bin + 1]],
      [c, s] = [Math.cos(angles[region]), Math.sin(angles[region])];
    return i % 2 === 0 ? re * c - im * s : re * s + im * c;
  });
  close(out.view, wanted);
});
