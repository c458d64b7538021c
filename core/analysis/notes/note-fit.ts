import { KernelNumbers, kernels } from '../../dsp/kernels/kernels';
import type { ToneFrames } from '../listen/tones';
import { keptByKey, keptOnce } from '../../kept/kept';
import { centsToRatio, noteToHz } from '../../units/pitch';

export const lowestNote = 24,
  noteCount = 84;
const perSemitone = 3,
  binsInAll = noteCount * perSemitone;

/** How strongly each note sounds over time. */
export interface NoteFrames {
  readonly hopSeconds: number;
  readonly frameCount: number;
  /** `strengths[frame × noteCount + (note − lowestNote)]` ≥ 0. */
  readonly strengths: Float32Array;
  /** Strength of what is not notes (noise, drums) in each frame: of the floor that peaks stand on. */
  readonly broad: Float32Array;
  /** Share of the peaks that the templates leave unexplained, in the mean. */
  readonly residual: number;
}

/** Place of a log-frequency bin on the note scale; a semitone's middle bin is the note itself. */
const noteOfBin = (bin: number): number => lowestNote + (bin - 1) / perSemitone;

/** Templates of notes as this spectrum shows them: twelve harmonics, each with the width of the window's main lobe, falling by 0.75. */
const dictionary = keptByKey((binHz: number) => {
  const rows = new Float32Array(noteCount * binsInAll);
  for (let note = 0; note < noteCount; note++) {
    const hz = noteToHz(lowestNote + note);
    for (let harmonic = 1; harmonic <= 12; harmonic++) {
      const partialHz = hz * harmonic;
      for (let bin = 0; bin < binsInAll; bin++) {
        const away = (noteToHz(noteOfBin(bin)) - partialHz) / binHz;
        // The main lobe of a Hann window is four bins wide; a third of a semitone at least.
        const width = Math.max(1, (partialHz * 0.0193) / binHz / 2);
        if (Math.abs(away) < 2 * width)
          rows[note * binsInAll + bin] += 0.75 ** (harmonic - 1) * Math.cos((Math.PI * away) / (4 * width)) ** 2;
      }
    }
  }
  const spans: [number, number][] = [];
  for (let k = 0; k < noteCount; k++) {
    let sum = 0,
      first = binsInAll,
      last = 0;
    for (let bin = 0; bin < binsInAll; bin++) {
      const value = rows[k * binsInAll + bin];
      sum += value * value;
      if (value > 0) {
        first = Math.min(first, bin);
        last = bin + 1;
      }
    }
    const scale = 1 / Math.sqrt(sum || 1);
    for (let bin = first; bin < last; bin++) rows[k * binsInAll + bin] *= scale;
    spans.push([first, last]);
  }
  const gram = new Float32Array(noteCount * noteCount);
  for (let a = 0; a < noteCount; a++)
    for (let b = 0; b <= a; b++) {
      let sum = 0;
      for (let bin = Math.max(spans[a][0], spans[b][0]); bin < Math.min(spans[a][1], spans[b][1]); bin++)
        sum += rows[a * binsInAll + bin] * rows[b * binsInAll + bin];
      gram[a * noteCount + b] = gram[b * noteCount + a] = sum;
    }
  // `rows[template × binsInAll + bin]`, `gram[template × noteCount + template]`
  return { rows: KernelNumbers.of(rows), gram: KernelNumbers.of(gram) };
});

const earlyTurns = 3,
  lateTurns = 14,
  vanishing = 0.004;

/** The floor of a peak: this many bins on either side, at high places this share of the place; and how far peaks must stand out of it. */
const floorBins = 8,
  floorShare = 0.08,
  floorWeight = 2.5;

/** What the fit of a frame works with, in the memory of the kernels. */
const scratch = keptOnce(() => ({
  y: new KernelNumbers(binsInAll),
  target: new KernelNumbers(noteCount),
  x: new KernelNumbers(noteCount),
  keptX: new KernelNumbers(noteCount),
  keptTarget: new KernelNumbers(noteCount),
  keptGram: new KernelNumbers(noteCount * noteCount),
  nothing: KernelNumbers.of(new Float32Array(noteCount)),
}));

/**
 * Notes by a non-negative fit of harmonic templates to a log-frequency spectrum (after Mauch & Dixon 2010, from memory): each frame's
 * peaks above the floor around them, root-compressed, as a sum of templates with weights ≥ 0 (multiplicative updates; Lee & Seung 2001).
 */
export function fitNotes(tones: ToneFrames): NoteFrames {
  const { rows, gram } = dictionary(tones.binHz),
    work = scratch(),
    { layer, fitWeights } = kernels();
  const { frameCount, bins, binHz, magnitudes } = tones;
  const shift = centsToRatio(tones.tuningCents);
  const places = Float32Array.from({ length: binsInAll }, (_, bin) => (noteToHz(noteOfBin(bin)) * shift) / binHz);
  const strengths = new Float32Array(frameCount * noteCount),
    broad = new Float32Array(frameCount);
  // Nothing below makes the memory of the kernels grow, so that its views stay good.
  const [y, target, x, keptX, keptTarget, keptGram, gramView] = [
    work.y,
    work.target,
    work.x,
    work.keptX,
    work.keptTarget,
    work.keptGram,
    gram,
  ].map(({ view }) => view);
  const kept = new Uint8Array(noteCount);
  const sums = new Float64Array(bins + 1);
  let left = 0,
    whole = 0;
  for (let frame = 0; frame < frameCount; frame++) {
    const row = frame * bins;
    for (let k = 0; k < bins; k++) sums[k + 1] = sums[k] + magnitudes[row + k];
    let energy = 0,
      floor = 0;
    for (let bin = 0; bin < binsInAll; bin++) {
      const place = places[bin],
        k = Math.min(bins - 2, Math.floor(place)),
        part = place - k,
        all = magnitudes[row + k] * (1 - part) + magnitudes[row + k + 1] * part;
      // What lies around is no note: drums and noise fill the spectrum, tones stand out of it.
      const reach = Math.max(floorBins, Math.round(k * floorShare)),
        from = Math.max(0, k - reach),
        to = Math.min(bins, k + reach + 1),
        value = Math.max(0, all - (floorWeight * (sums[to] - sums[from])) / (to - from));
      y[bin] = Math.sqrt(value);
      energy += value;
      floor += Math.sqrt(all) - y[bin];
    }
    broad[frame] = floor;
    if (energy < 1e-6) continue;
    layer(rows.at, work.nothing.at, work.y.at, work.target.at, binsInAll, noteCount, -Infinity);
    for (let k = 0; k < noteCount; k++) x[k] = target[k] * 0.2 + 1e-4;
    fitWeights(work.x.at, work.target.at, gram.at, noteCount, noteCount, earlyTurns);
    // Most notes are as good as gone by now: the rest is settled without them.
    let most = 0,
      count = 0;
    for (let k = 0; k < noteCount; k++) most = Math.max(most, x[k]);
    for (let k = 0; k < noteCount; k++) {
      if (x[k] > most * vanishing) kept[count++] = k;
      else x[k] = 0;
    }
    const stride = Math.ceil(count / 4) * 4;
    keptX.fill(0, count, stride);
    for (let a = 0; a < count; a++) {
      keptX[a] = x[kept[a]];
      keptTarget[a] = target[kept[a]];
      for (let b = 0; b < count; b++) keptGram[a * stride + b] = gramView[kept[a] * noteCount + kept[b]];
    }
    fitWeights(work.keptX.at, work.keptTarget.at, work.keptGram.at, count, stride, lateTurns);
    for (let a = 0; a < count; a++) x[kept[a]] = keptX[a];
    let explained = 0;
    for (let k = 0; k < noteCount; k++) explained += x[k] * target[k];
    left += Math.max(0, energy - explained);
    whole += energy;
    for (let note = 0; note < noteCount; note++) strengths[frame * noteCount + note] = x[note];
  }
  return { hopSeconds: tones.hopSeconds, frameCount, strengths, broad, residual: whole > 0 ? left / whole : 0 };
}
