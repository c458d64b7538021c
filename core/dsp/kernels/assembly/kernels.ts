/*
 * Inner loops of hearing for WebAssembly (AssemblyScript, four numbers at a time): what they are handed are places in this module's own
 * memory. `node scripts/build-kernels.mjs` compiles them into kernels-wasm.ts; kernels.ts says what each is for.
 */
export { byteDistances } from './byte-distances';

let top: usize = __heap_base;

/** Room for so many bytes, for good. */
export function allocate(bytes: usize): usize {
  const at = (top + 15) & ~(<usize>15);
  top = at + bytes;
  const missing = <i32>((top + 0xffff) >>> 16) - memory.size();
  if (missing > 0) memory.grow(missing);
  return at;
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function sumOf(v: v128): f32 {
  return f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3));
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function dot(a: usize, b: usize, bytes: usize): f32 {
  let one = f32x4.splat(0),
    two = f32x4.splat(0),
    i: usize = 0;
  for (; i + 32 <= bytes; i += 32) {
    one = f32x4.add(one, f32x4.mul(v128.load(a + i), v128.load(b + i)));
    two = f32x4.add(two, f32x4.mul(v128.load(a + i, 16), v128.load(b + i, 16)));
  }
  if (i < bytes) one = f32x4.add(one, f32x4.mul(v128.load(a + i), v128.load(b + i)));
  return sumOf(f32x4.add(one, two));
}

export function multiply(a: usize, b: usize, out: usize, count: usize): void {
  for (let i: usize = 0; i < count << 2; i += 16) v128.store(out + i, f32x4.mul(v128.load(a + i), v128.load(b + i)));
}

export function powers(spectrum: usize, out: usize, bins: usize, half: usize, scale: f32): void {
  const by = f32x4.splat(scale);
  // Two vectors hold re, im of four bins; the first bin's place is taken by the two ends of the spectrum.
  for (let k: usize = 0; k < bins; k += 4) {
    const a = v128.load(spectrum + (k << 3)),
      b = v128.load(spectrum + (k << 3), 16),
      re = v128.shuffle<f32>(a, b, 0, 2, 4, 6),
      im = v128.shuffle<f32>(a, b, 1, 3, 5, 7);
    v128.store(out + (k << 2), f32x4.mul(f32x4.add(f32x4.mul(re, re), f32x4.mul(im, im)), by));
  }
  const zero = load<f32>(spectrum),
    last = load<f32>(spectrum, 4);
  store<f32>(out, zero * zero * scale);
  if (bins > half) store<f32>(out + (half << 2), last * last * scale);
}

export function bandSums(power: usize, bands: usize, shares: usize, out: usize, count: usize, gain: f32): void {
  for (let band: usize = 0; band < count; band++) {
    const from = power + (<usize>load<u32>(bands + (band << 3)) << 2),
      many = <usize>load<u32>(bands + (band << 3), 4);
    let sum: f32 = 0;
    for (let k: usize = 0; k < many; k++) sum += load<f32>(from + (k << 2)) * load<f32>(shares + (k << 2));
    shares += many << 2;
    store<f32>(out + (band << 2), sum * gain);
  }
}

export function layer(weights: usize, bias: usize, x: usize, out: usize, inputs: usize, rows: usize, floor: f32): void {
  const bytes = inputs << 2;
  for (let row: usize = 0; row < rows; row++)
    store<f32>(out + (row << 2), max<f32>(floor, load<f32>(bias + (row << 2)) + dot(weights + row * bytes, x, bytes)));
}

export function fitWeights(x: usize, target: usize, gram: usize, count: usize, stride: usize, turns: usize): void {
  const bytes = stride << 2;
  for (let turn: usize = 0; turn < turns; turn++)
    for (let k: usize = 0; k < count; k++) {
      const here = x + (k << 2),
        value = load<f32>(here);
      if (value < 1e-6) continue;
      // A little is added to what is explained, for sparseness: what two notes explain, one should not need five for.
      store<f32>(here, (value * load<f32>(target + (k << 2))) / (dot(gram + k * bytes, x, bytes) + 0.020001));
    }
}

export function conjugateProduct(a: usize, b: usize, count: usize): void {
  const first = load<f32>(a) * load<f32>(b),
    last = load<f32>(a, 4) * load<f32>(b, 4);
  for (let i: usize = 0; i < count << 2; i += 32) {
    const p = v128.load(a + i),
      q = v128.load(a + i, 16),
      r = v128.load(b + i),
      s = v128.load(b + i, 16),
      pr = v128.shuffle<f32>(p, q, 0, 2, 4, 6),
      pi = v128.shuffle<f32>(p, q, 1, 3, 5, 7),
      rr = v128.shuffle<f32>(r, s, 0, 2, 4, 6),
      ri = v128.shuffle<f32>(r, s, 1, 3, 5, 7),
      re = f32x4.add(f32x4.mul(rr, pr), f32x4.mul(ri, pi)),
      im = f32x4.sub(f32x4.mul(ri, pr), f32x4.mul(rr, pi));
    v128.store(b + i, v128.shuffle<f32>(re, im, 0, 4, 1, 5));
    v128.store(b + i, v128.shuffle<f32>(re, im, 2, 6, 3, 7), 16);
  }
  store<f32>(b, first);
  store<f32>(b, last, 4);
}

export function differences(piece: usize, correlation: usize, out: usize, window: usize, lags: usize, scale: f32): f32 {
  let first: f64 = 0,
    rest: f64 = 0;
  for (let i: usize = 0; i < window; i++) {
    const a = <f64>load<f32>(piece + (i << 2)),
      b = <f64>load<f32>(piece + ((i + window) << 2));
    first += a * a;
    rest += b * b;
  }
  let second = first,
    running: f64 = 0;
  store<f32>(out, 1);
  for (let lag: usize = 1; lag < lags; lag++) {
    const enters = <f64>load<f32>(piece + ((window + lag - 1) << 2)),
      leaves = <f64>load<f32>(piece + ((lag - 1) << 2));
    second += enters * enters - leaves * leaves;
    const difference = max<f64>(0, first + second - 2 * <f64>(load<f32>(correlation + (lag << 2)) * scale));
    running += difference;
    store<f32>(out + (lag << 2), running > 0 ? <f32>((difference * <f64>lag) / running) : 1);
  }
  return <f32>(first + rest);
}

export function survey(left: usize, right: usize, count: usize, out: usize): void {
  let l1 = f64x2.splat(0),
    r1 = f64x2.splat(0),
    ll = f64x2.splat(0),
    rr = f64x2.splat(0),
    lr = f64x2.splat(0),
    lm = f32x4.splat(0),
    rm = f32x4.splat(0);
  for (let i: usize = 0; i < count << 2; i += 16) {
    const l = v128.load(left + i),
      r = v128.load(right + i),
      la = f64x2.promote_low_f32x4(l),
      ra = f64x2.promote_low_f32x4(r),
      lb = f64x2.promote_low_f32x4(v128.shuffle<f32>(l, l, 2, 3, 2, 3)),
      rb = f64x2.promote_low_f32x4(v128.shuffle<f32>(r, r, 2, 3, 2, 3));
    // What is no number is passed over.
    lm = f32x4.pmax(lm, f32x4.abs(l));
    rm = f32x4.pmax(rm, f32x4.abs(r));
    l1 = f64x2.add(l1, f64x2.add(la, lb));
    r1 = f64x2.add(r1, f64x2.add(ra, rb));
    ll = f64x2.add(ll, f64x2.add(f64x2.mul(la, la), f64x2.mul(lb, lb)));
    rr = f64x2.add(rr, f64x2.add(f64x2.mul(ra, ra), f64x2.mul(rb, rb)));
    lr = f64x2.add(lr, f64x2.add(f64x2.mul(la, ra), f64x2.mul(lb, rb)));
  }
  store<f64>(out, f64x2.extract_lane(l1, 0) + f64x2.extract_lane(l1, 1));
  store<f64>(out, f64x2.extract_lane(r1, 0) + f64x2.extract_lane(r1, 1), 8);
  store<f64>(out, f64x2.extract_lane(ll, 0) + f64x2.extract_lane(ll, 1), 16);
  store<f64>(out, f64x2.extract_lane(rr, 0) + f64x2.extract_lane(rr, 1), 24);
  store<f64>(out, f64x2.extract_lane(lr, 0) + f64x2.extract_lane(lr, 1), 32);
  store<f64>(out, largest(lm), 40);
  store<f64>(out, largest(rm), 48);
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function largest(v: v128): f64 {
  return max<f64>(
    max<f64>(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)),
    max<f64>(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)),
  );
}

export function weigh(left: usize, right: usize, count: usize, filter: usize, state: usize): void {
  const b0 = f64x2.splat(load<f64>(filter)),
    b1 = f64x2.splat(load<f64>(filter, 8)),
    b2 = f64x2.splat(load<f64>(filter, 16)),
    a1 = f64x2.splat(load<f64>(filter, 24)),
    a2 = f64x2.splat(load<f64>(filter, 32)),
    c1 = f64x2.splat(load<f64>(filter, 40)),
    c2 = f64x2.splat(load<f64>(filter, 48));
  let x1 = v128.load(state),
    x2 = v128.load(state, 16),
    y1 = v128.load(state, 32),
    y2 = v128.load(state, 48),
    z1 = v128.load(state, 64),
    z2 = v128.load(state, 80),
    sum = v128.load(state, 96);
  for (let i: usize = 0; i < count << 2; i += 4) {
    const x = f64x2.promote_low_f32x4(v128.load_lane<f32>(right + i, v128.load32_zero(left + i), 1)),
      // What is known longest comes first, so that only one product waits for the last value.
      y = f64x2.sub(
        f64x2.sub(f64x2.add(f64x2.add(f64x2.mul(b0, x), f64x2.mul(b1, x1)), f64x2.mul(b2, x2)), f64x2.mul(a2, y2)),
        f64x2.mul(a1, y1),
      ),
      z = f64x2.sub(f64x2.sub(f64x2.add(f64x2.sub(y, f64x2.add(y1, y1)), y2), f64x2.mul(c2, z2)), f64x2.mul(c1, z1));
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    z2 = z1;
    z1 = z;
    sum = f64x2.add(sum, f64x2.mul(z, z));
  }
  v128.store(state, x1);
  v128.store(state, x2, 16);
  v128.store(state, y1, 32);
  v128.store(state, y2, 48);
  v128.store(state, z1, 64);
  v128.store(state, z2, 80);
  v128.store(state, sum, 96);
}

export function mean(left: usize, right: usize, out: usize, count: usize): void {
  const half = f32x4.splat(0.5);
  for (let i: usize = 0; i < count << 2; i += 16)
    v128.store(out + i, f32x4.mul(f32x4.add(v128.load(left + i), v128.load(right + i)), half));
}

export function resample(
  source: usize,
  rows: usize,
  out: usize,
  count: usize,
  first: f64,
  base: f64,
  step: f64,
  phases: f64,
  narrow: f64,
  taps: usize,
): void {
  const width = taps << 3;
  for (let i: usize = 0; i < count; i++) {
    const position = (first + <f64>i) * step,
      centre = floor<f64>(position),
      phase = (position - centre) * phases,
      row = floor<f64>(phase),
      blend = f64x2.splat(phase - row);
    let a = rows + <usize>row * width,
      read = source + (<usize>(centre - base) << 3),
      sum = f64x2.splat(0);
    for (const end = a + width; a < end; a += 16) {
      const here = v128.load(a),
        weights = f64x2.add(here, f64x2.mul(f64x2.sub(v128.load(a + width), here), blend)),
        one = f64x2.promote_low_f32x4(v128.load64_zero(read)),
        next = f64x2.promote_low_f32x4(v128.load64_zero(read, 8));
      // One tap after the other, in the order of a plain loop: the sums are the same to the last bit.
      sum = f64x2.add(sum, f64x2.mul(one, v128.shuffle<f64>(weights, weights, 0, 0)));
      sum = f64x2.add(sum, f64x2.mul(next, v128.shuffle<f64>(weights, weights, 1, 1)));
      read += 16;
    }
    v128.store64_lane(out + (i << 3), f32x4.demote_f64x2_zero(f64x2.mul(sum, f64x2.splat(narrow))), 0);
  }
}

export function highestBetween(plane: usize, taps: usize, count: usize): f32 {
  let highest = f32x4.splat(0);
  for (let i: usize = 0; i < count << 2; i += 16) {
    let quarter = f32x4.splat(0),
      half = f32x4.splat(0),
      late = f32x4.splat(0);
    for (let tap: usize = 0; tap < 48; tap += 4) {
      const here = v128.load(plane + i + tap);
      quarter = f32x4.add(quarter, f32x4.mul(here, v128.load32_splat(taps + tap)));
      half = f32x4.add(half, f32x4.mul(here, v128.load32_splat(taps + tap, 48)));
      late = f32x4.add(late, f32x4.mul(here, v128.load32_splat(taps + tap, 96)));
    }
    highest = f32x4.max(highest, f32x4.max(f32x4.abs(quarter), f32x4.max(f32x4.abs(half), f32x4.abs(late))));
  }
  return max<f32>(
    max<f32>(f32x4.extract_lane(highest, 0), f32x4.extract_lane(highest, 1)),
    max<f32>(f32x4.extract_lane(highest, 2), f32x4.extract_lane(highest, 3)),
  );
}

export function overlapAdd(frame: usize, window: usize, sum: usize, count: usize, scale: f64): void {
  const by = f64x2.splat(scale);
  for (let i: usize = 0; i < count << 2; i += 8) {
    const product = f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(frame + i)), f64x2.promote_low_f32x4(v128.load64_zero(window + i))),
      all = f64x2.add(f64x2.promote_low_f32x4(v128.load64_zero(sum + i)), f64x2.mul(product, by));
    v128.store64_lane(sum + i, f32x4.demote_f64x2_zero(all), 0);
  }
}

export function turnRegions(spectrum: usize, out: usize, starts: usize, units: usize, count: usize): void {
  for (let region: usize = 0; region < count; region++) {
    const c = load<f32>(units + (region << 3)),
      s = load<f32>(units + (region << 3), 4),
      cosine = f32x4.splat(c),
      sine = f32x4(-s, s, -s, s),
      end = <usize>load<f32>(starts + (region << 2), 4) << 3;
    let i = <usize>load<f32>(starts + (region << 2)) << 3;
    for (; i + 16 <= end; i += 16) {
      const x = v128.load(spectrum + i);
      v128.store(out + i, f32x4.add(f32x4.mul(x, cosine), f32x4.mul(v128.shuffle<f32>(x, x, 1, 0, 3, 2), sine)));
    }
    if (i < end) {
      const re = load<f32>(spectrum + i),
        im = load<f32>(spectrum + i, 4);
      store<f32>(out + i, re * c - im * s);
      store<f32>(out + i, re * s + im * c, 4);
    }
  }
}

export function add(a: usize, b: usize, out: usize, count: usize): void {
  for (let i: usize = 0; i < count << 2; i += 16) v128.store(out + i, f32x4.add(v128.load(a + i), v128.load(b + i)));
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function nextPeak(power: usize, from: usize, bins: usize): usize {
  for (let k = from; k + 2 < bins; k++) {
    const at = power + (k << 2),
      value = load<f32>(at);
    if (value > load<f32>(at - 4) && value >= load<f32>(at, 4) && value > load<f32>(at - 8) && value >= load<f32>(at, 8)) return k;
  }
  return bins;
}

export function findRegions(power: usize, bins: usize, peaks: usize, starts: usize): usize {
  let count: usize = 0,
    start: usize = 1,
    peak = nextPeak(power, 2, bins);
  while (start < bins) {
    const following = peak < bins ? nextPeak(power, peak + 1, bins) : bins;
    let valley = bins;
    if (following < bins) {
      valley = peak + 1;
      let lowest = load<f32>(power + (valley << 2));
      for (let j = peak + 2; j < following; j++) {
        const value = load<f32>(power + (j << 2));
        if (value < lowest) {
          lowest = value;
          valley = j;
        }
      }
    }
    store<i32>(peaks + (count << 2), <i32>min(peak, bins - 1));
    store<i32>(starts + (count << 2), <i32>start);
    count++;
    start = valley;
    peak = following;
  }
  store<i32>(starts + (count << 2), <i32>bins);
  return count;
}
