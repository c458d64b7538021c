import { kernelsBase64 } from './kernels-wasm';
import { bytesFromBase64 } from '../../formats/base64';

/** What assembly/kernels.ts exports: places are bytes in its memory, sizes are counts of numbers. */
interface Kernels {
  readonly memory: { readonly buffer: ArrayBuffer };
  allocate(bytes: number): number;
  /** `out = a × b`; sizes are multiples of 4. */
  multiply(a: number, b: number, out: number, count: number): void;
  /** Squared magnitudes of a spectrum `[re 0, re half, re 1, im 1 …]`, scaled. */
  powers(spectrum: number, out: number, bins: number, half: number, scale: number): void;
  /** Weighted sums of neighbouring numbers: `bands` holds first and count of each, `shares` the weights of all after each other. */
  bandSums(power: number, bands: number, shares: number, out: number, count: number, gain: number): void;
  /** `out = max(floor, bias + weights · x)`; rows of weights are `inputs` long, a multiple of 4. */
  layer(weights: number, bias: number, x: number, out: number, inputs: number, rows: number, floor: number): void;
  /** Multiplicative updates of non-negative weights, in place, one after the other. Rows of `gram` are `stride` long, a multiple of 4. */
  fitWeights(x: number, target: number, gram: number, count: number, stride: number, turns: number): void;
  /** `b = conj(a) × b` of two spectra as `powers` takes them; `count` numbers, a multiple of 8. */
  conjugateProduct(a: number, b: number, count: number): void;
  /** The cumulative mean normalised differences of YIN, from a piece of two windows and its correlation; gives the energy of the piece. */
  differences(piece: number, correlation: number, out: number, window: number, lags: number, scale: number): number;
  /** Of two pieces: both sums, both energies, the sum of their products, both peaks, as seven 64-bit numbers; sizes are multiples of 4. */
  survey(left: number, right: number, count: number, out: number): void;
  /**
   * Two channels through a filter of the second order, and through another whose zeros lie at 0 Hz; sums the squares. `filter`: b0, b1, b2, a1, a2 of
   * the first, a1, a2 of the second, as 64-bit numbers; `state`: x1, x2, y1, y2, z1, z2 and the sum, each left and right, is carried on.
   */
  weigh(left: number, right: number, count: number, filter: number, state: number): void;
  /** `out = (left + right) / 2` */
  mean(left: number, right: number, out: number, count: number): void;
  /**
   * `count` frames of two channels side by side from frame `first` on, by rows of `taps` 64-bit weights for each of `phases` places between
   * two frames, and one more. `source` begins where the first tap of frame `base` of the original is read.
   */
  resample(
    source: number,
    rows: number,
    out: number,
    count: number,
    first: number,
    base: number,
    step: number,
    phases: number,
    narrow: number,
    taps: number,
  ): void;
  /** The highest absolute value of `count` twelves of frames, one frame apart, each weighed by three rows of 12 taps; `count` is a multiple of 4. */
  highestBetween(plane: number, taps: number, count: number): number;
  /** `sum = sum + frame × window × scale`, worked out in 64 bits; `count` is a multiple of 2. */
  overlapAdd(frame: number, window: number, sum: number, count: number, scale: number): void;
  /** Turns regions of a spectrum by a complex number each, `units` as pairs; a region goes from its start (a number of bins) to the next. */
  turnRegions(spectrum: number, out: number, starts: number, units: number, count: number): void;
  /** `out = a + b`; sizes are multiples of 4. */
  add(a: number, b: number, out: number, count: number): void;
  /**
   * Local maxima of a power spectrum over ±2 bins, each with the bins around it to the valleys: `peaks` and `starts` as 32-bit whole numbers,
   * room for `bins` + 1 each; behind the last start stands `bins`. Gives how many there are.
   */
  findRegions(power: number, bins: number, peaks: number, starts: number): number;
  /** Squared distances of `count` rows of 32 bytes (−128 to 127) from one such row, as 32-bit whole numbers. */
  byteDistances(rows: number, wanted: number, out: number, count: number): void;
}

/** As much of WebAssembly as is used here; browsers and Node have it alike. */
interface WasmHost {
  readonly WebAssembly: {
    readonly Module: new (bytes: Uint8Array) => object;
    readonly Instance: new (module: object, imports: Record<string, Record<string, () => unknown>>) => { readonly exports: unknown };
  };
}

let instance: Kernels | null = null;

/**
 * The compiled inner loops of hearing: with them all of it runs at 72 times real time instead of 40 (November 2026). Small enough to be
 * compiled at once wherever it is asked for.
 */
export function kernels(): Kernels {
  if (!instance) {
    const { Module, Instance } = (globalThis as unknown as WasmHost).WebAssembly;
    // An abort can only come from a failed check, of which there are none.
    instance = new Instance(new Module(bytesFromBase64(kernelsBase64)), { env: { abort: () => undefined } }).exports as Kernels;
  }
  return instance;
}

/** Numbers in the memory of the kernels, for good: for weights, and for scratch that is made once. */
export class KernelNumbers {
  readonly at: number;
  private seen: Float32Array = new Float32Array(0);

  constructor(readonly length: number) {
    // Loops take four at a time: what a last step reads beyond the end belongs to the room.
    this.at = kernels().allocate(Math.ceil(length / 8) * 32 + 32);
  }

  /** Looked at anew whenever the memory has grown. */
  get view(): Float32Array {
    const { buffer } = kernels().memory;
    if (this.seen.buffer !== buffer) this.seen = new Float32Array(buffer, this.at, this.length);
    return this.seen;
  }

  static of(values: ArrayLike<number>): KernelNumbers {
    const numbers = new KernelNumbers(values.length);
    numbers.view.set(values);
    return numbers;
  }
}
