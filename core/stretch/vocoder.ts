import { hann, PairFft } from '../dsp/fft';

const size = 4096;
const overlap = 4;
const preRollHops = overlap + 1;

/**
 * Tonal stretch of a cyclic signal to exactly `targetFrames`: a phase vocoder with identity phase locking (Laroche & Dolson
 * 1999). Each frame is analysed twice, at its place and one synthesis hop before, so that the rotation from frame to frame is
 * a product of unit vectors: no unwrapping. The rotation found at a peak, summed over the channels to keep the stereo
 * image, moves the whole region of that peak. What was rendered before position 0 is faded into the end, which makes the seam.
 * Silence gives silence.
 */
export function stretchTonal(cycle: readonly Float32Array[], targetFrames: number): Float32Array[] {
  const sourceFrames = cycle[0].length;
  const channelCount = Math.min(2, cycle.length);
  const frameCount = Math.max(1, Math.round((targetFrames * overlap) / size));
  const toSource = sourceFrames / targetFrames;
  const place = (frame: number) => Math.round((frame * targetFrames) / frameCount);
  const preFrames = Math.min(size, targetFrames);
  const fft = new PairFft(size);
  const window = hann(size);
  const bins = fft.bins;
  const spectra = () => Array.from({ length: channelCount }, () => ({ re: new Float64Array(bins), im: new Float64Array(bins) }));
  const now = spectra(),
    before = spectra(),
    made = spectra();
  const nowTime = new Float64Array(size),
    beforeTime = new Float64Array(size);
  const outTimes = [new Float64Array(size), new Float64Array(size)];
  const magnitude = new Float64Array(bins);
  const length = preFrames + targetFrames + size;
  const sums = Array.from({ length: channelCount }, () => new Float64Array(length));
  const weights = new Float64Array(length);
  for (let frame = -preRollHops - Math.ceil((preFrames * overlap) / size); frame <= frameCount + overlap; frame++) {
    const at = place(frame),
      hop = at - place(frame - 1);
    const source = Math.round(at * toSource);
    for (let channel = 0; channel < channelCount; channel++) {
      loadWindowed(cycle[channel], source - size / 2, window, nowTime);
      loadWindowed(cycle[channel], source - hop - size / 2, window, beforeTime);
      fft.forward(nowTime, beforeTime, now[channel].re, now[channel].im, before[channel].re, before[channel].im);
    }
    rotateRegions(now, before, made, magnitude, frame === -preRollHops - Math.ceil((preFrames * overlap) / size));
    fft.inverse(
      made[0].re,
      made[0].im,
      channelCount > 1 ? made[1].re : null,
      channelCount > 1 ? made[1].im : null,
      outTimes[0],
      channelCount > 1 ? outTimes[1] : null,
    );
    const start = at - size / 2 + preFrames;
    for (let i = Math.max(0, -start); i < size && start + i < length; i++) {
      weights[start + i] += window[i] * window[i];
      for (let channel = 0; channel < channelCount; channel++) sums[channel][start + i] += outTimes[channel][i] * window[i];
    }
  }
  return Array.from({ length: cycle.length }, (_, channel) =>
    closeSeam(sums[Math.min(channel, channelCount - 1)], weights, preFrames, targetFrames),
  );
}

function loadWindowed(signal: Float32Array, from: number, window: Float64Array, into: Float64Array): void {
  const frames = signal.length;
  let at = ((from % frames) + frames) % frames;
  for (let i = 0; i < size; i++) {
    into[i] = signal[at] * window[i];
    if (++at === frames) at = 0;
  }
}

type Spectra = readonly { readonly re: Float64Array; readonly im: Float64Array }[];

/** made = now, each peak's region turned by unit( Σ made_before · conj(before) ) at the peak. `made` holds the last frame on entry. */
function rotateRegions(now: Spectra, before: Spectra, made: Spectra, magnitude: Float64Array, first: boolean): void {
  const bins = magnitude.length;
  if (first) {
    now.forEach((spectrum, channel) => {
      made[channel].re.set(spectrum.re);
      made[channel].im.set(spectrum.im);
    });
    return;
  }
  magnitude.fill(0);
  for (const { re, im } of now) for (let k = 0; k < bins; k++) magnitude[k] += re[k] * re[k] + im[k] * im[k];
  let regionStart = 0;
  for (let k = 0; k < bins;) {
    const peak = nextPeak(magnitude, k);
    const following = peak < bins ? nextPeak(magnitude, peak + 1) : bins;
    let valley = bins;
    if (peak < bins && following < bins) {
      valley = peak + 1;
      for (let j = peak + 1; j < following; j++) if (magnitude[j] < magnitude[valley]) valley = j;
    }
    const centre = Math.min(peak, bins - 1);
    let re = 0,
      im = 0;
    for (let channel = 0; channel < now.length; channel++) {
      const y = made[channel],
        x = before[channel];
      re += y.re[centre] * x.re[centre] + y.im[centre] * x.im[centre];
      im += y.im[centre] * x.re[centre] - y.re[centre] * x.im[centre];
    }
    const norm = Math.hypot(re, im);
    const c = norm > 1e-20 ? re / norm : 1,
      s = norm > 1e-20 ? im / norm : 0;
    for (let channel = 0; channel < now.length; channel++) {
      const x = now[channel],
        y = made[channel];
      for (let j = regionStart; j < valley; j++) {
        const xr = x.re[j],
          xi = x.im[j];
        y.re[j] = xr * c - xi * s;
        y.im[j] = xr * s + xi * c;
      }
    }
    regionStart = valley;
    k = following;
  }
}

/** The next local maximum over ±2 bins from `from` on; `bins` when there is none. */
function nextPeak(magnitude: Float64Array, from: number): number {
  const bins = magnitude.length;
  for (let k = Math.max(from, 2); k < bins - 2; k++) {
    const m = magnitude[k];
    if (m > magnitude[k - 1] && m >= magnitude[k + 1] && m > magnitude[k - 2] && m >= magnitude[k + 2]) return k;
  }
  return bins;
}

function closeSeam(sum: Float64Array, weights: Float64Array, preFrames: number, targetFrames: number): Float32Array {
  const value = (i: number) => (weights[i] > 1e-6 ? sum[i] / weights[i] : 0);
  const out = new Float32Array(targetFrames);
  for (let i = 0; i < targetFrames; i++) out[i] = value(preFrames + i);
  for (let i = 0; i < preFrames; i++) {
    const mix = (i + 1) / (preFrames + 1);
    const at = targetFrames - preFrames + i;
    out[at] = out[at] * (1 - mix) + value(i) * mix;
  }
  return out;
}
