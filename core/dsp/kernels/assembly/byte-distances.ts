/* Distances of rows of bytes, for AssemblyScript: see kernels.ts beside it. */

// @ts-ignore: a decorator of AssemblyScript
@inline
function squares(bytes: v128, low: v128, high: v128): v128 {
  const a = i16x8.sub(i16x8.extend_low_i8x16_s(bytes), low),
    b = i16x8.sub(i16x8.extend_high_i8x16_s(bytes), high);
  return i32x4.add(i32x4.dot_i16x8_s(a, a), i32x4.dot_i16x8_s(b, b));
}

export function byteDistances(rows: usize, wanted: usize, out: usize, count: usize): void {
  const first = v128.load(wanted),
    second = v128.load(wanted, 16),
    a = i16x8.extend_low_i8x16_s(first),
    b = i16x8.extend_high_i8x16_s(first),
    c = i16x8.extend_low_i8x16_s(second),
    d = i16x8.extend_high_i8x16_s(second);
  for (let k: usize = 0; k < count; k++) {
    const at = rows + (k << 5),
      sums = i32x4.add(squares(v128.load(at), a, b), squares(v128.load(at, 16), c, d));
    store<i32>(
      out + (k << 2),
      i32x4.extract_lane(sums, 0) + i32x4.extract_lane(sums, 1) + (i32x4.extract_lane(sums, 2) + i32x4.extract_lane(sums, 3)),
    );
  }
}
