import FFT from 'fft.js';

/**
 * A plan for complex transforms of one size, with the trick of carrying two real signals in one complex transform:
 * for z = a + i·b the spectra are A = (Z[k] + Z*[−k]) / 2 and B = (Z[k] − Z*[−k]) / 2i.
 */
export class PairFft {
  private readonly plan: FFT;
  private readonly time: Float64Array;
  private readonly spectrum: Float64Array;
  readonly bins: number;

  /** @param size a power of two */
  constructor(readonly size: number) {
    this.plan = new FFT(size);
    this.time = new Float64Array(size * 2);
    this.spectrum = new Float64Array(size * 2);
    this.bins = size / 2 + 1;
  }

  /** Two real signals of `size` into their half spectra (`bins` values each). `b` may be null. */
  forward(
    a: Float64Array,
    b: Float64Array | null,
    aRe: Float64Array,
    aIm: Float64Array,
    bRe: Float64Array | null,
    bIm: Float64Array | null,
  ): void {
    const { time, spectrum, size } = this;
    for (let i = 0; i < size; i++) {
      time[2 * i] = a[i];
      time[2 * i + 1] = b ? b[i] : 0;
    }
    this.plan.transform(spectrum, time);
    for (let k = 0; k < this.bins; k++) {
      const mirror = k === 0 ? 0 : size - k;
      const re = spectrum[2 * k],
        im = spectrum[2 * k + 1],
        mRe = spectrum[2 * mirror],
        mIm = spectrum[2 * mirror + 1];
      aRe[k] = (re + mRe) / 2;
      aIm[k] = (im - mIm) / 2;
      if (bRe && bIm) {
        bRe[k] = (im + mIm) / 2;
        bIm[k] = (mRe - re) / 2;
      }
    }
  }

  /** Two half spectra back into real signals, scaled by 1/size. */
  inverse(
    aRe: Float64Array,
    aIm: Float64Array,
    bRe: Float64Array | null,
    bIm: Float64Array | null,
    a: Float64Array,
    b: Float64Array | null,
  ): void {
    const { time, spectrum, size, bins } = this;
    for (let k = 0; k < bins; k++) {
      const br = bRe ? bRe[k] : 0,
        bi = bIm ? bIm[k] : 0;
      spectrum[2 * k] = aRe[k] - bi;
      spectrum[2 * k + 1] = aIm[k] + br;
      if (k > 0 && k < size / 2) {
        const mirror = size - k;
        spectrum[2 * mirror] = aRe[k] + bi;
        spectrum[2 * mirror + 1] = br - aIm[k];
      }
    }
    this.plan.inverseTransform(time, spectrum);
    for (let i = 0; i < size; i++) {
      a[i] = time[2 * i];
      if (b) b[i] = time[2 * i + 1];
    }
  }
}

const hannBySize = new Map<number, Float64Array>();

/** Periodic Hann window. The table is shared: do not write into it. */
export function hann(size: number): Float64Array {
  let window = hannBySize.get(size);
  if (!window) {
    window = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
    hannBySize.set(size, window);
  }
  return window;
}
