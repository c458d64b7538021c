import { likenessLength } from '../analysis/similarity/likeness';
import { KernelNumbers, kernels } from '../dsp/kernels/kernels';
import { keptOnce } from '../kept/kept';
import type { ProfileReader } from './fit/profile';
import type { CharacterWay } from './query';

/** 0–1: how alike two sounds are by their colour, from likenesses of signed bytes (16 steps a unit of the spread within one instrument). */
export function soundLikeness(a: Int8Array, aOffset: number, b: Int8Array, bOffset: number): number {
  let sum = 0;
  for (let k = 0; k < likenessLength; k++) {
    const apart = a[aOffset + k] - b[bOffset + k];
    sum += apart * apart;
  }
  return likenessAt(sum);
}

/** The likeness of two sounds whose numbers are so far apart, squared. */
const likenessAt = (squaredDistance: number): number => 1 / (1 + Math.sqrt(squaredDistance) / 48);

const blockRows = 8192,
  /** Room in the kernels’ memory for a block of rows, for the one they are held against, and for what is found. */
  room = keptOnce(() => ({
    rows: new KernelNumbers((blockRows * likenessLength) / 4),
    wanted: new KernelNumbers(likenessLength / 4),
    found: new KernelNumbers(blockRows),
  }));

/**
 * How alike many sounds are to one, 0–1: what `soundLikeness` says of each row, many at a time.
 * @param rows numbers of `out.length` sounds after each other
 */
export function soundLikenesses(rows: Int8Array, wanted: Int8Array, wantedOffset: number, out: Float32Array): void {
  const { rows: block, wanted: one, found } = room(),
    bytes = (numbers: KernelNumbers, length: number) => new Int8Array(numbers.view.buffer, numbers.at, length);
  bytes(one, likenessLength).set(wanted.subarray(wantedOffset, wantedOffset + likenessLength));
  for (let from = 0; from < out.length; from += blockRows) {
    const count = Math.min(blockRows, out.length - from);
    bytes(block, count * likenessLength).set(rows.subarray(from * likenessLength, (from + count) * likenessLength));
    kernels().byteDistances(block.at, one.at, found.at, count);
    const distances = new Int32Array(found.view.buffer, found.at, count);
    for (let k = 0; k < count; k++) out[from + k] = likenessAt(distances[k]);
  }
}

/** 0–1: how alike two rhythms are by the accents of their bar, swing and density (cosine of the accents); NaN where it is not known. */
export function rhythmLikeness(a: ProfileReader, b: ProfileReader): number {
  if (!a.isKnown || !b.isKnown || a.cells === 0 || a.cells !== b.cells) return NaN;
  let product = 0,
    aSquare = 0,
    bSquare = 0;
  for (let cell = 0; cell < a.cells; cell++) {
    const x = a.accent(cell),
      y = b.accent(cell);
    product += x * y;
    aSquare += x * x;
    bSquare += y * y;
  }
  const accents = aSquare > 0 && bSquare > 0 ? product / Math.sqrt(aSquare * bSquare) : 0,
    swing = a.swing !== null && b.swing !== null ? Math.min(1, Math.abs(a.swing - b.swing) * 6) : 0,
    density = a.density !== null && b.density !== null ? Math.min(1, Math.abs(Math.log2((a.density + 0.1) / (b.density + 0.1))) / 3) : 0;
  return Math.max(0, accents ** 2 - 0.2 * swing - 0.2 * density);
}

/** 0–1: how alike two progressions are, bar by bar, wherever they are pitched and wherever they begin (best of twelve shifts); NaN where it is not known. */
export function harmonyLikeness(a: ProfileReader, b: ProfileReader): number {
  if (!a.isKnown || !b.isKnown || a.bars === 0 || b.bars === 0) return NaN;
  const bars = Math.max(a.bars, b.bars);
  let best = 0;
  for (let shift = 0; shift < 12; shift++) {
    let product = 0,
      aSquare = 0,
      bSquare = 0;
    for (let bar = 0; bar < bars; bar++)
      for (let pitch = 0; pitch < 12; pitch++) {
        const x = a.pitch(bar % a.bars, pitch),
          y = b.pitch(bar % b.bars, (pitch + shift) % 12);
        product += x * y;
        aSquare += x * x;
        bSquare += y * y;
      }
    if (aSquare > 0 && bSquare > 0) best = Math.max(best, product / Math.sqrt(aSquare * bSquare));
  }
  return best ** 2;
}

/** Along which measure a way leads, and whether upwards. */
export function alongWay(profile: ProfileReader, way: CharacterWay): number | null {
  switch (way) {
    case 'tighter':
    case 'looser':
      return profile.spreadMs === null ? null : way === 'looser' ? profile.spreadMs : -profile.spreadMs;
    case 'busier':
    case 'calmer':
      return profile.density === null ? null : way === 'busier' ? profile.density : -profile.density;
    case 'brighter':
    case 'darker':
      return profile.brightnessOctaves === null ? null : way === 'brighter' ? profile.brightnessOctaves : -profile.brightnessOctaves;
    case 'drier':
    case 'roomier':
      return profile.fallSeconds === null ? null : way === 'roomier' ? profile.fallSeconds : -profile.fallSeconds;
  }
}

/** Bars that a tapped pattern may be of, and how a tap smears over its sixteenths. */
const tappedBars = [1, 2],
  smear = 0.6;

/** A pattern that was tapped, as accents of one bar under one reading of its tempo. */
export interface TappedReading {
  readonly accents: Float32Array;
}

/**
 * What was tapped may mean: for each length that a bar may have, where the taps fall among its sixteenths. A tap stands at the first sixteenth; the
 * last sounds until the bar is full, by how much nobody tapped, so lengths are tried in steps of 3 %.
 * @param atMs of each tap from the first
 */
export function readTaps(atMs: readonly number[], cells: number): TappedReading[] {
  const span = (atMs.at(-1) ?? 0) - atMs[0],
    readings: TappedReading[] = [];
  for (const bars of tappedBars)
    for (let barMs = (span * 1.02) / bars; barMs <= (span * 2.2) / bars; barMs *= 1.03) {
      if (barMs < 600 || barMs > 6000) continue;
      const accents = new Float32Array(cells);
      for (const each of atMs) {
        const place = (((each - atMs[0]) / barMs) * cells) % cells,
          nearest = Math.round(place),
          away = Math.abs(place - nearest);
        accents[nearest % cells] += Math.exp(-((away / smear) ** 2) * 2);
      }
      const most = Math.max(...accents);
      readings.push({ accents: accents.map((value) => Math.min(1, value / Math.max(1e-6, most))) });
    }
  return readings;
}

/** 0–1: how well a loop's accents are what was tapped, by the best reading of the taps and any place of the first. */
export function tappedLikeness(profile: ProfileReader, readings: readonly TappedReading[]): number {
  const cells = profile.cells;
  if (!profile.isKnown || cells === 0) return NaN;
  let square = 0;
  const own = new Float32Array(cells);
  for (let cell = 0; cell < cells; cell++) square += (own[cell] = Math.sqrt(profile.accent(cell))) ** 2;
  if (square === 0) return NaN;
  let best = 0;
  for (const { accents } of readings) {
    if (accents.length !== cells) continue;
    let tapped = 0;
    for (let cell = 0; cell < cells; cell++) tapped += accents[cell] ** 2;
    // One begins to tap at a hit, whichever of the bar.
    for (let turned = 0; turned < cells; turned++) {
      if (own[turned] < 0.5) continue;
      let product = 0;
      for (let cell = 0; cell < cells; cell++) product += accents[cell] * own[(cell + turned) % cells];
      best = Math.max(best, product / Math.sqrt(square * tapped));
    }
  }
  return best;
}
