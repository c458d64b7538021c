import createPffft, { type Pffft } from '@echogarden/pffft-wasm/simd';

let library: Pffft | null = null;
const bySize = new Map<number, RealFft>();

/** Loads the compiled transform; to be awaited once before anything that hears is called. */
export async function loadTransforms(): Promise<void> {
  library ??= await createPffft();
}

/** The transform of one size, made once. @throws {Error} before `loadTransforms` */
export function realFft(size: number): RealFft {
  let found = bySize.get(size);
  if (!found) {
    if (!library) throw new Error('loadTransforms() has to be awaited before spectra are taken');
    found = new RealFft(library, size);
    bySize.set(size, found);
  }
  return found;
}

/** Transforms of real signals of one size, in single precision. Unscaled both ways: there and back is `size` times the signal. */
export class RealFft {
  private readonly setup: number;
  private readonly timeAt: number;
  private readonly spectrumAt: number;
  private readonly workAt: number;
  private heap: Float32Array | null = null;
  private timeView: Float32Array = new Float32Array(0);
  private spectrumView: Float32Array = new Float32Array(0);

  /** @param size a multiple of 32 without prime factors above 5 */
  constructor(
    private readonly library: Pffft,
    readonly size: number,
  ) {
    if (size % 32 !== 0) throw new RangeError(`no transform of size ${size}`);
    this.setup = library._pffft_new_setup(size, 0);
    [this.timeAt, this.spectrumAt, this.workAt] = [0, 1, 2].map(() => library._pffft_aligned_malloc(size * 4));
  }

  private look(): void {
    if (this.heap === this.library.HEAPF32) return;
    this.heap = this.library.HEAPF32;
    this.timeView = this.heap.subarray(this.timeAt / 4, this.timeAt / 4 + this.size);
    this.spectrumView = this.heap.subarray(this.spectrumAt / 4, this.spectrumAt / 4 + this.size);
  }

  /** Where the signal is written before `forward` and found after `inverse`. Good until another transform is made. */
  get time(): Float32Array {
    this.look();
    return this.timeView;
  }

  /** `[re 0, re size/2, re 1, im 1, re 2, im 2 …]`; written before `inverse`. Good until another transform is made. */
  get spectrum(): Float32Array {
    this.look();
    return this.spectrumView;
  }

  forward(): void {
    this.library._pffft_transform_ordered(this.setup, this.timeAt, this.spectrumAt, this.workAt, 0);
  }

  inverse(): void {
    this.library._pffft_transform_ordered(this.setup, this.spectrumAt, this.timeAt, this.workAt, 1);
  }
}
