import { KernelNumbers } from '../dsp/kernels/kernels';
import { copyOfRegions, RegionFinder, turnBins } from './regions';

/** Spectra of 16 bins whose magnitudes are given from bin 1 on. */
const spectrumOf = (magnitudes: readonly number[]): KernelNumbers => {
  const spectrum = new Float32Array(32);
  magnitudes.forEach((value, k) => (spectrum[2 * (k + 1)] = value));
  return KernelNumbers.of(spectrum);
};

test('each peak has the bins around it up to the valleys, and every bin but the constant is in one region', () => {
  const { count, peaks, starts } = new RegionFinder(16).find([spectrumOf([0, 1, 3, 1, 0.5, 0.2, 2, 5, 2, 0.1])]);
  expect(count).toBe(2);
  expect([...peaks.subarray(0, 2)]).toEqual([3, 8]);
  expect([...starts.subarray(0, 3)]).toEqual([1, 6, 16]);
});

test('channels are looked at together', () => {
  const [left, right] = [spectrumOf([0, 0, 4]), spectrumOf([0, 0, 0, 0, 0, 0, 0, 0, 0, 3])],
    { count, peaks } = new RegionFinder(16).find([left, right]);
  expect([...peaks.subarray(0, count)]).toEqual([3, 10]);
});

test('silence is one region', () => {
  const { count, starts } = new RegionFinder(16).find([spectrumOf([])]);
  expect([count, starts[0], starts[1]]).toEqual([1, 1, 16]);
});

test('a copy outlives the next search', () => {
  const finder = new RegionFinder(16),
    kept = copyOfRegions(finder.find([spectrumOf([0, 0, 4])]));
  finder.find([spectrumOf([0, 0, 0, 0, 0, 0, 2])]);
  expect(kept.peaks[0]).toBe(3);
});

test('bins are turned as complex numbers, those outside left alone', () => {
  const spectrum = Float32Array.of(9, 9, 1, 0, 1, 0, 1, 0);
  turnBins(spectrum, 2, 3, 0, 1);
  expect([...spectrum]).toEqual([9, 9, 1, 0, 0, 1, 1, 0]);
});

/** The regions by their definition, in plain words: a peak is above the two before it and not below the two behind; between two the first lowest bin parts them. */
function byDefinition(power: readonly number[]): { peaks: number[]; starts: number[] } {
  const bins = power.length,
    tops = power.flatMap((value, k) =>
      k >= 2 && k < bins - 2 && value > power[k - 1] && value > power[k - 2] && value >= power[k + 1] && value >= power[k + 2] ? [k] : [],
    );
  if (tops.length === 0) return { peaks: [bins - 1], starts: [1] };
  const valleys = tops.slice(1).map((top, k) => {
    const between = power.slice(tops[k] + 1, top);
    return tops[k] + 1 + between.indexOf(Math.min(...between));
  });
  return { peaks: tops, starts: [1, ...valleys] };
}

test('whatever the spectrum, regions are what their definition says', () => {
  let seed = 11;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let round = 0; round < 200; round++) {
    // Whole numbers, so that there are plateaus and ties; some spectra are mostly silent.
    const bins = [16, 32, 64][round % 3],
      most = [2, 6, 40][Math.floor(round / 3) % 3],
      magnitudes = Array.from({ length: bins - 1 }, () => (random() < 0.2 ? 0 : Math.floor(random() * most))),
      spectrum = new Float32Array(2 * bins);
    magnitudes.forEach((value, k) => (spectrum[2 * (k + 1)] = value));
    const { count, peaks, starts } = new RegionFinder(bins).find([KernelNumbers.of(spectrum)]),
      wanted = byDefinition([0, ...magnitudes.map((value) => value * value)]);
    expect([...peaks.subarray(0, count)]).toEqual(wanted.peaks);
    expect([...starts.subarray(0, count + 1)]).toEqual([...wanted.starts, bins]);
  }
});
