declare module '@echogarden/pffft-wasm/simd' {
  export interface Pffft {
    /** Views of the memory; made anew whenever it grows. */
    readonly HEAPF32: Float32Array;
    _pffft_new_setup(size: number, transform: number): number;
    _pffft_transform_ordered(setup: number, input: number, output: number, work: number, direction: number): void;
    _pffft_aligned_malloc(bytes: number): number;
  }
  export default function createPffft(): Promise<Pffft>;
}
