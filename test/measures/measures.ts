import { realFft } from '../../core/dsp/real-fft';
import { hannSingle } from '../../core/dsp/window';

/*
 * What is measured of a fitted loop against its truth, the same notes played at the target. From memory unless a source is named.
 * All signals are cyclic.
 */
const rateHz = 44100,
  millisecond = rateHz / 1000;

export const mono = (sound: readonly Float32Array[]): Float32Array =>
  sound.length === 1 ? sound[0] : Float32Array.from(sound[0], (value, i) => (value + sound[1][i]) / 2);

const around = (signal: Float32Array, from: number, count: number): Float32Array => {
  const out = new Float32Array(count),
    n = signal.length;
  for (let i = 0; i < count; i++) out[i] = signal[(((from + i) % n) + n) % n];
  return out;
};

const energy = (signal: Float32Array, from: number, to: number): number => {
  let sum = 0;
  const n = signal.length;
  for (let i = Math.round(from); i < to; i++) sum += signal[((i % n) + n) % n] ** 2;
  return sum;
};

/** Hits one can hear start: 7 dB above the 20 ms before, within 25 dB of the loudest, none other within 45 ms. */
export function audibleHits(truth: Float32Array, hitFrames: readonly number[]): number[] {
  const level = (frame: number) => energy(truth, frame, frame + 20 * millisecond),
    before = (frame: number) => energy(truth, frame - 20 * millisecond, frame),
    loudest = Math.max(0, ...hitFrames.map(level)),
    count = hitFrames.length;
  return hitFrames.filter((frame, k) => {
    const previous = k > 0 ? hitFrames[k - 1] : hitFrames[count - 1] - truth.length,
      next = k + 1 < count ? hitFrames[k + 1] : hitFrames[0] + truth.length;
    return (
      level(frame) > before(frame) * 5 &&
      level(frame) > loudest / 316 &&
      (count === 1 || (frame - previous > 45 * millisecond && next - frame > 45 * millisecond))
    );
  });
}

const step = 4;

/**
 * Rise of the level, half a millisecond smoothed, every 4 frames from `from` on: of the sound itself, which a drum shows best, and of its
 * edges (first difference), which show a plucked note over others that ring on.
 */
function rises(signal: Float32Array, from: number, count: number): readonly Float64Array[] {
  const width = 22,
    part = around(signal, from - width, count * step + 2 * width + 1),
    of = (at: (i: number) => number) => {
      const levels = new Float64Array(count + 1);
      for (let k = 0; k <= count; k++) {
        let sum = 0;
        for (let i = 0; i < width; i++) sum += Math.abs(at(k * step + i));
        levels[k] = sum / width;
      }
      return Float64Array.from({ length: count }, (_, k) => Math.max(0, levels[k + 1] - levels[k]));
    };
  return [of((i) => part[i]), of((i) => part[i + 1] - part[i])];
}

/** How much later than in the truth a hit starts, in ms: the shift within ±20 ms at which the rises agree best. */
export function hitErrorMs(truth: Float32Array, fitted: Float32Array, frame: number): number {
  const lead = Math.round(5 * millisecond),
    count = Math.round((20 * millisecond) / step),
    reach = Math.round((20 * millisecond) / step),
    wanted = rises(truth, frame - lead, count),
    found = rises(fitted, frame - lead - reach * step, count + 2 * reach);
  let best = 0,
    bestScore = -1;
  for (let lag = 0; lag <= 2 * reach; lag++) {
    let score = 0;
    wanted.forEach((one, which) => {
      const other = found[which];
      let dot = 0,
        power = 1e-12,
        own = 1e-12;
      for (let k = 0; k < count; k++) {
        dot += one[k] * other[lag + k];
        power += other[lag + k] ** 2;
        own += one[k] ** 2;
      }
      score += dot / Math.sqrt(power * own);
    });
    // Of shifts that are as good, the nearest.
    if (score > bestScore * (1 + 1e-9) || (score > bestScore * 0.9999 && Math.abs(lag - reach) < Math.abs(best - reach))) {
      bestScore = Math.max(score, bestScore);
      best = lag;
    }
  }
  return ((best - reach) * step) / millisecond;
}

/** Time from 10 to 90 % of the highest level within 30 ms, ms. */
export function attackMs(signal: Float32Array, frame: number): number {
  const width = 22,
    from = Math.round(frame - 3 * millisecond),
    count = Math.round(33 * millisecond),
    part = around(signal, from, count + width),
    levels = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    let sum = 0;
    for (let i = 0; i < width; i++) sum += part[k + i] ** 2;
    levels[k] = Math.sqrt(sum / width);
  }
  let peak = 0;
  for (let k = 0; k < count; k++) if (levels[k] > levels[peak]) peak = k;
  let low = peak,
    high = peak;
  while (high > 0 && levels[high - 1] > levels[peak] * 0.9) high--;
  low = high;
  while (low > 0 && levels[low - 1] > levels[peak] * 0.1) low--;
  return (high - low) / millisecond;
}

/** So far below a hit nothing is heard before it. */
const inaudibleDb = -60;

/** Energy of the 20 ms before a hit (the last millisecond left out) against that of the 20 ms after, dB; what is inaudible counts as −60. */
export function preEchoDb(signal: Float32Array, frame: number): number {
  return Math.max(
    inaudibleDb,
    10 *
      Math.log10(
        (energy(signal, frame - 20 * millisecond, frame - millisecond) + 1e-12) / (energy(signal, frame, frame + 20 * millisecond) + 1e-12),
      ),
  );
}

const bandCount = 40,
  size = 2048,
  hop = 512;

function bandLevels(signal: Float32Array): Float64Array[] {
  const fft = realFft(size),
    window = hannSingle(size),
    edges = Array.from({ length: bandCount + 1 }, (_, k) => Math.round(((60 * (16000 / 60) ** (k / bandCount)) / rateHz) * size)),
    frames: Float64Array[] = [];
  for (let at = 0; at < signal.length; at += hop) {
    const part = around(signal, at - size / 2, size);
    for (let i = 0; i < size; i++) fft.time[i] = part[i] * window[i];
    fft.forward();
    const spectrum = fft.spectrum;
    frames.push(
      Float64Array.from({ length: bandCount }, (_, band) => {
        let sum = 0;
        for (let k = Math.max(1, edges[band]); k < Math.max(edges[band] + 1, edges[band + 1]); k++)
          sum += spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
        return sum;
      }),
    );
  }
  return frames;
}

/** Log-spectral distance in dB: 40 bands from 60 Hz to 16 kHz, what is 60 dB below the loudest counts as silent. */
export function spectralDistanceDb(truth: Float32Array, fitted: Float32Array): number {
  const wanted = bandLevels(truth),
    found = bandLevels(fitted),
    loudest = Math.max(...wanted.map((frame) => Math.max(...frame))),
    toDb = (value: number) => 10 * Math.log10(Math.max(value, loudest * 1e-6));
  let sum = 0;
  wanted.forEach((frame, at) => {
    let square = 0;
    frame.forEach((value, band) => (square += (toDb(value) - toDb(found[Math.min(at, found.length - 1)][band])) ** 2));
    sum += Math.sqrt(square / bandCount);
  });
  return sum / wanted.length;
}

/**
 * Of steady partials: how much of the sound they explain (dB), and how much each one's amplitude wobbles (standard deviation over mean,
 * weighed by energy). Least squares of sines at the true frequencies in windows of 8,192 frames, one every 2,048.
 */
export function partialsOf(
  signal: Float32Array,
  frequenciesHz: readonly number[],
): { readonly explainedDb: number; readonly wobble: number } {
  const length = 8192,
    apart = 2048,
    count = frequenciesHz.length,
    window = Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length)),
    basis: Float64Array[] = frequenciesHz.flatMap((hz) => [
      Float64Array.from({ length }, (_, i) => window[i] * Math.cos((2 * Math.PI * hz * i) / rateHz)),
      Float64Array.from({ length }, (_, i) => window[i] * Math.sin((2 * Math.PI * hz * i) / rateHz)),
    ]),
    solve = factor(basis.map((a, row) => Float64Array.from(basis, (b, column) => (column <= row ? dot(a, b) : 0))));
  const amplitudes: number[][] = frequenciesHz.map(() => []),
    model = new Float64Array(length);
  let explained = 0,
    left = 0;
  for (let at = 0; at + length <= signal.length; at += apart) {
    const part = Float64Array.from(window, (shape, i) => signal[at + i] * shape),
      weights = solve(basis.map((wave) => dot(wave, part)));
    model.fill(0);
    basis.forEach((wave, k) => {
      const weight = weights[k];
      for (let i = 0; i < length; i++) model[i] += weight * wave[i];
    });
    for (let i = 0; i < length; i++) {
      explained += model[i] * model[i];
      left += (part[i] - model[i]) ** 2;
    }
    for (let k = 0; k < count; k++) amplitudes[k].push(Math.hypot(weights[2 * k], weights[2 * k + 1]));
  }
  let wobble = 0,
    total = 0;
  for (const list of amplitudes) {
    const mean = list.reduce((sum, value) => sum + value, 0) / list.length,
      deviation = Math.sqrt(list.reduce((sum, value) => sum + (value - mean) ** 2, 0) / list.length);
    wobble += deviation * mean;
    total += mean * mean;
  }
  return { explainedDb: 10 * Math.log10(explained / (left + 1e-12)), wobble: wobble / total };
}

/** Mean amplitude of each partial over the whole signal, by projection on its frequency; for cycles that hold whole periods of each. */
export function partialAmplitudes(signal: Float32Array, frequenciesHz: readonly number[]): number[] {
  return frequenciesHz.map((hz) => {
    // Short pieces, so that a small error of pitch or a wavering phase does no harm.
    const length = 4096;
    let total = 0,
      count = 0;
    for (let at = 0; at + length <= signal.length; at += length / 2) {
      let re = 0,
        im = 0;
      for (let i = 0; i < length; i++) {
        const value = signal[at + i] * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length)),
          turn = (2 * Math.PI * hz * i) / rateHz;
        re += value * Math.cos(turn);
        im += value * Math.sin(turn);
      }
      total += (4 * Math.hypot(re, im)) / length;
      count++;
    }
    return total / Math.max(1, count);
  });
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

/** Solver for one symmetric positive matrix, of which the lower half is read (Cholesky, a little ridge against near-equal frequencies). */
function factor(matrix: Float64Array[]): (right: readonly number[]) => number[] {
  const n = matrix.length,
    lower = matrix.map(() => new Float64Array(n));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i][j] + (i === j ? 1e-6 * matrix[i][i] : 0);
      for (let k = 0; k < j; k++) sum -= lower[i][k] * lower[j][k];
      lower[i][j] = i === j ? Math.sqrt(Math.max(sum, 1e-12)) : sum / lower[j][j];
    }
  return (right) => {
    const y = new Array<number>(n);
    for (let i = 0; i < n; i++) {
      let sum = right[i];
      for (let k = 0; k < i; k++) sum -= lower[i][k] * y[k];
      y[i] = sum / lower[i][i];
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = y[i];
      for (let k = i + 1; k < n; k++) sum -= lower[k][i] * y[k];
      y[i] = sum / lower[i][i];
    }
    return y;
  };
}

export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length ? sorted[Math.floor(sorted.length / 2)] : NaN;
};
export const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
