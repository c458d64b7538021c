/** `at` brought into 0 … length − 1 by whole cycles. */
export const wrapFrame = (at: number, length: number): number => ((at % length) + length) % length;

/** A cycle with its own end in front and its own start behind, so that kernels need not turn round. Index `before` is the cycle's frame 0. */
export function unroll(plane: Float32Array, before: number, after: number): Float32Array {
  const frames = plane.length,
    out = new Float32Array(before + frames + after);
  for (let at = 0, from = wrapFrame(-before, frames); at < out.length; from = 0) {
    const part = Math.min(frames - from, out.length - at);
    out.set(plane.subarray(from, from + part), at);
    at += part;
  }
  return out;
}
