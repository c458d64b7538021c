import { KernelNumbers, kernels } from '../../dsp/kernels/kernels';
import { keptOnce } from '../../kept/kept';
import type { Heard } from '../listen/hear';
import { bandCentreHz, melBands } from '../listen/mel';
import { lowestNote, noteCount } from '../notes/note-fit';
import { centsToRatio, noteToHz } from '../../units/pitch';

const cepstra = 20;
const cosines = Float32Array.from(
  { length: cepstra * melBands },
  (_, i) => Math.cos((Math.PI * Math.floor(i / melBands) * ((i % melBands) + 0.5)) / melBands) / melBands,
);
/** Where the kernels find the transform and what it is put to. */
const room = keptOnce(() => ({
  cosines: KernelNumbers.of(cosines),
  nothing: KernelNumbers.of(new Float32Array(cepstra)),
  logs: new KernelNumbers(melBands),
  values: new KernelNumbers(cepstra),
}));

const quantile = (sorted: ArrayLike<number>, share: number): number =>
  sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] : 0;
const squash = (value: number): number => Math.log1p(Math.max(0, value));

/**
 * About two hundred numbers that tell instruments apart, independent of level: mean, spread and movement of the cepstrum (MFCC; Davis &
 * Mermelstein 1980), of the start of notes against what follows, spectral shape with percentiles, band levels, envelope, onsets, and what
 * the notes are like (range, polyphony, steadiness, harmonics).
 */
export function timbreVector(heard: Heard): number[] {
  const { mel, onsets, notes, tones, span } = heard,
    { frameCount, power } = mel,
    features: number[] = [];
  const energy = new Float32Array(frameCount);
  let loudest = 1e-12;
  for (let frame = 0; frame < frameCount; frame++) {
    for (let band = 0; band < melBands; band++) energy[frame] += power[frame * melBands + band];
    loudest = Math.max(loudest, energy[frame]);
  }
  // Cepstra of frames within 50 dB of the loudest, every second frame.
  const rows: { at: number; weight: number; values: Float32Array; attack: boolean }[] = [];
  const work = room(),
    logs = new Float32Array(melBands),
    all = onsets.bands[4];
  for (let frame = 0; frame < frameCount; frame += 2) {
    if (energy[frame] < loudest * 1e-5) continue;
    for (let band = 0; band < melBands; band++) logs[band] = Math.log10(power[frame * melBands + band] / energy[frame] + 1e-6);
    work.logs.view.set(logs);
    kernels().layer(work.cosines.at, work.nothing.at, work.logs.at, work.values.at, melBands, cepstra, -Infinity);
    const values = work.values.view.slice();
    let rise = 0;
    for (let k = Math.max(0, frame - 6); k <= frame + 1 && k < frameCount; k++) rise = Math.max(rise, all[k]);
    rows.push({ at: frame, weight: (energy[frame] / loudest) ** 0.3, values, attack: rise > 2 });
  }
  const moments = (list: typeof rows): { mean: Float32Array; deviation: Float32Array } => {
    const mean = new Float32Array(cepstra),
      deviation = new Float32Array(cepstra);
    let weights = 1e-9;
    for (const { weight, values } of list) {
      weights += weight;
      for (let k = 0; k < cepstra; k++) mean[k] += weight * values[k];
    }
    for (let k = 0; k < cepstra; k++) mean[k] /= weights;
    for (const { weight, values } of list)
      for (let k = 0; k < cepstra; k++) deviation[k] += (weight * (values[k] - mean[k]) ** 2) / weights;
    return { mean, deviation: deviation.map(Math.sqrt) };
  };
  const whole = moments(rows),
    movement = new Float32Array(cepstra);
  for (let i = 1; i < rows.length; i++)
    if (rows[i].at - rows[i - 1].at === 2)
      for (let k = 0; k < cepstra; k++) movement[k] += Math.abs(rows[i].values[k] - rows[i - 1].values[k]) / rows.length;
  features.push(...whole.mean, ...whole.deviation, ...movement);
  const attack = moments(rows.filter((row) => row.attack)),
    body = moments(rows.filter((row) => !row.attack));
  for (let k = 0; k < 13; k++) features.push(attack.mean[k], attack.mean[k] - body.mean[k]);

  // Spectral shape.
  const centroids: number[] = [],
    flatness: number[] = [],
    rolloffs: number[] = [],
    widths: number[] = [];
  const bandSums = new Float32Array(melBands);
  for (const { at, weight } of rows) {
    let centre = 0,
      geometric = 0,
      arithmetic = 1e-12,
      acc = 0,
      roll = melBands;
    for (let band = 0; band < melBands; band++) {
      const share = power[at * melBands + band] / energy[at];
      centre += share * band;
      geometric += Math.log(share + 1e-7) / melBands;
      arithmetic += share / melBands;
      bandSums[band] += weight * share;
      acc += share;
      if (roll === melBands && acc > 0.85) roll = band;
    }
    let width = 0;
    for (let band = 0; band < melBands; band++) width += (power[at * melBands + band] / energy[at]) * (band - centre) ** 2;
    centroids.push(centre / melBands);
    widths.push(Math.sqrt(width) / melBands);
    flatness.push(Math.exp(geometric) / arithmetic);
    rolloffs.push(roll / melBands);
  }
  for (const list of [centroids, widths, flatness, rolloffs]) {
    const sorted = [...list].sort((a, b) => a - b);
    features.push(quantile(sorted, 0.1), quantile(sorted, 0.5), quantile(sorted, 0.9), quantile(sorted, 0.97) - quantile(sorted, 0.03));
  }
  const total = bandSums.reduce((a, b) => a + b, 1e-9);
  for (let group = 0; group < 10; group++) {
    let sum = 0;
    for (let band = group * 4; band < group * 4 + 4; band++) sum += bandSums[band];
    features.push(Math.log10(sum / total + 1e-4));
  }

  // Envelope: how it rises, falls and fills.
  const blocks: number[] = [];
  for (let frame = 0; frame < frameCount; frame += 2) blocks.push(Math.sqrt(Math.max(energy[frame], energy[frame + 1] ?? 0) / loudest));
  const sorted = [...blocks].sort((a, b) => a - b);
  features.push(
    quantile(sorted, 0.1),
    quantile(sorted, 0.3),
    quantile(sorted, 0.5),
    quantile(sorted, 0.8),
    blocks.filter((value) => value < 0.003).length / blocks.length,
  );
  const peakAt = blocks.indexOf(Math.max(...blocks)),
    hopSeconds = mel.hopSeconds * 2;
  let riseFrom = peakAt;
  while (riseFrom > 0 && blocks[riseFrom] > 0.1) riseFrom--;
  features.push(squash(((peakAt - riseFrom) * hopSeconds) / 0.02), peakAt / blocks.length);
  for (const level of [0.5, 0.25, 0.1, 0.03]) {
    let k = peakAt;
    while (k < blocks.length && blocks[k] > level) k++;
    features.push(squash(((k - peakAt) * hopSeconds) / 0.05));
  }
  // Mean fall over 60, 120 and 250 ms behind onsets, by band group.
  const starts: number[] = [];
  for (let i = 1; i < all.length - 1; i++)
    if (all[i] > 2.5 && all[i] >= all[i - 1] && all[i] > all[i + 1] && i - (starts.at(-1) ?? -99) > 8) starts.push(i);
  for (const [low, high] of [
    [0, 10],
    [10, 24],
    [24, 40],
  ] as const)
    for (const wait of [10, 21, 43]) {
      let sum = 0,
        count = 0;
      for (const start of starts) {
        let now = 1e-9,
          later = 1e-9;
        if (start + wait >= frameCount) continue;
        for (let band = low; band < high; band++) {
          now = Math.max(now, power[Math.min(frameCount - 1, start + 2) * melBands + band]);
          later = Math.max(later, power[(start + wait) * melBands + band]);
        }
        sum += Math.max(-4, Math.min(1, Math.log10(later / now)));
        count++;
      }
      features.push(count ? sum / count : 0);
    }

  // Onsets.
  const seconds = Math.max(0.05, span.lastSoundSeconds - span.firstSoundSeconds),
    gaps = starts.slice(1).map((start, k) => (start - starts[k]) * mel.hopSeconds);
  const gapMean = gaps.reduce((a, b) => a + b, 0) / (gaps.length || 1);
  features.push(
    squash(starts.length / seconds),
    squash(starts.length),
    gaps.length ? Math.sqrt(gaps.reduce((sum, gap) => sum + (gap - gapMean) ** 2, 0) / gaps.length) / gapMean : 0,
  );
  for (let band = 0; band < 4; band++) {
    const sortedBand = [...onsets.bands[band]].sort((a, b) => a - b);
    features.push(squash(quantile(sortedBand, 0.99)), squash(quantile(sortedBand, 0.9)));
  }
  features.push(squash(span.fileSeconds), squash(span.fileSeconds * 4), Math.max(-1, span.endLevelDb / 60));

  features.push(...motion(energy, starts, mel.hopSeconds), ...noteShape(heard));
  features.push(tones.tuningAgreement, tones.peakShare, notes.residual);
  return features.map((value) => (Number.isFinite(value) ? value : 0));
}

/** How notes begin and how the level moves while they sound: rise time, and the share of tremolo and vibrato rates (3 to 9 Hz). */
function motion(energy: Float32Array, starts: readonly number[], hopSeconds: number): number[] {
  const rises: number[] = [];
  for (const start of starts) {
    let top = start;
    for (let k = start; k < Math.min(energy.length, start + 40); k++) if (energy[k] > energy[top]) top = k;
    let from = top;
    while (from > 0 && from > start - 12 && energy[from] > energy[top] * 0.1) from--;
    rises.push((top - from) * hopSeconds);
  }
  rises.sort((a, b) => a - b);
  // Level in dB at 43 a second, against its average over a third of a second.
  const step = 4,
    levels: number[] = [];
  for (let frame = 0; frame + step <= energy.length; frame += step) {
    let sum = 0;
    for (let k = 0; k < step; k++) sum += energy[frame + k];
    levels.push(Math.log10(sum + 1e-9));
  }
  let slow = 0,
    fast = 0,
    count = 0;
  for (let k = 7; k + 7 < levels.length; k++) {
    let mean = 0;
    for (let near = -7; near <= 7; near++) mean += levels[k + near] / 15;
    const near = (levels[k - 1] + levels[k] + levels[k + 1]) / 3;
    slow += Math.abs(near - mean);
    fast += Math.abs(levels[k] - near);
    count++;
  }
  return [
    squash(quantile(rises, 0.5) / 0.02),
    squash(quantile(rises, 0.1) / 0.02),
    squash(quantile(rises, 0.9) / 0.02),
    count ? slow / count : 0,
    count ? fast / count : 0,
  ];
}

/** What the notes are like: where they lie, how many at once, how long, how steady, and the harmonics of the strongest. */
function noteShape({ notes, tones }: Heard): number[] {
  const { frameCount, strengths, broad } = notes;
  let loudest = 1e-9;
  for (const value of strengths) loudest = Math.max(loudest, value);
  const sums = new Float32Array(noteCount),
    lows: number[] = [],
    highs: number[] = [],
    counts: number[] = [],
    tops: number[] = [],
    shares: number[] = [];
  const harmonics = new Float32Array(10),
    harmonicFrames: number[][] = [];
  let runs = 0,
    held = 0,
    fall = 0,
    lasting = 0,
    before: number[] = [];
  for (let frame = 0; frame < frameCount; frame++) {
    let most = 0,
      top = 0,
      sum = 0;
    for (let note = 0; note < noteCount; note++) {
      const value = strengths[frame * noteCount + note];
      sum += value;
      if (value > most) [most, top] = [value, note];
    }
    shares.push(sum / (sum + broad[frame] + 1e-6));
    if (most < loudest * 0.08) {
      before = [];
      continue;
    }
    const here: number[] = [];
    for (let note = 0; note < noteCount; note++) {
      const value = strengths[frame * noteCount + note];
      if (value > most * 0.3) here.push(note);
      if (value > most * 0.1) sums[note] += value;
    }
    lows.push(here[0]);
    highs.push(here[here.length - 1]);
    tops.push(top);
    counts.push(here.length);
    for (const note of here) {
      held++;
      if (!before.includes(note)) runs++;
      else {
        fall += Math.log((strengths[frame * noteCount + note] + 1e-6) / (strengths[(frame - 1) * noteCount + note] + 1e-6));
        lasting++;
      }
    }
    before = here;
    // Harmonics of the lowest strong note, from the spectrum itself.
    const hz = noteToHz(lowestNote + here[0]) * centsToRatio(tones.tuningCents),
      levels: number[] = [];
    for (let h = 1; h <= 10; h++) {
      const k = Math.round((hz * h) / tones.binHz);
      let value = 0;
      for (let near = -2; near <= 2; near++) value = Math.max(value, tones.magnitudes[frame * tones.bins + k + near] ?? 0);
      levels.push(value);
    }
    const norm = Math.max(...levels, 1e-9);
    if (harmonicFrames.length < 400) harmonicFrames.push(levels.map((value) => Math.log10(value / norm + 1e-3)));
  }
  for (const row of harmonicFrames) row.forEach((value, h) => (harmonics[h] += value / harmonicFrames.length));
  const sort = (list: number[]) => list.sort((a, b) => a - b),
    range = (list: number[]) => [quantile(sort(list), 0.1) / 84, quantile(list, 0.5) / 84, quantile(list, 0.9) / 84];
  const total = sums.reduce((a, b) => a + b, 1e-9);
  const classes = new Float32Array(12);
  sums.forEach((value, note) => (classes[note % 12] += value / total));
  const ranked = [...classes].sort((a, b) => b - a),
    entropy = -ranked.reduce((sum, value) => sum + (value > 0 ? value * Math.log(value) : 0), 0);
  const wander =
    harmonicFrames.length > 1
      ? harmonicFrames
          .slice(1)
          .reduce((sum, row, k) => sum + row.reduce((part, value, h) => part + Math.abs(value - harmonicFrames[k][h]), 0) / 10, 0) /
        harmonicFrames.length
      : 0;
  return [
    ...range(lows),
    ...range(highs),
    ...range(tops),
    counts.reduce((a, b) => a + b, 0) / (counts.length || 1) / 4,
    quantile(sort(counts), 0.9) / 4,
    runs ? squash(held / runs) : 0,
    lasting ? Math.max(-2, Math.min(2, fall / lasting)) : -1,
    lows.length / (frameCount || 1),
    entropy,
    ranked[0] + ranked[1] + ranked[2],
    ranked[0],
    ...[0.1, 0.5, 0.9].map((share) => quantile(sort(shares), share)),
    ...harmonics,
    harmonics[0] + harmonics[2] + harmonics[4] - harmonics[1] - harmonics[3] - harmonics[5],
    wander,
  ];
}

/** The centre of a group of four mel bands, for those who draw the vector. */
export const bandGroupHz = (group: number): number => bandCentreHz(group * 4 + 2);
