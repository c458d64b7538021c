const bySize = new Map<number, { readonly double: Float64Array; readonly single: Float32Array }>();

function tables(size: number): { readonly double: Float64Array; readonly single: Float32Array } {
  let found = bySize.get(size);
  if (!found) {
    const double = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
    found = { double, single: Float32Array.from(double) };
    bySize.set(size, found);
  }
  return found;
}

/** Periodic Hann window. The table is shared: do not write into it. */
export const hann = (size: number): Float64Array => tables(size).double;

/** The same in single precision, for kernels that work in it. */
export const hannSingle = (size: number): Float32Array => tables(size).single;
