import { topOffset } from '../../dsp/parabola';
import { hann } from '../../dsp/window';
import { realFft } from '../../dsp/real-fft';
import type { Heard } from '../listen/hear';
import { melBands } from '../listen/mel';

/** How a note begins and dies away, in ten groups of bands: slices of 5.8 ms frames behind an onset. */
const slices: readonly (readonly [from: number, to: number])[] = [
  [-1, 1],
  [1, 3],
  [3, 6],
  [6, 14],
  [14, 34],
  [34, 80],
  [80, 170],
];
const groups = 10,
  groupWidth = melBands / groups,
  mostStrokes = 24;

/**
 * A stroke is what a hit or a note is known by: its spectrum in the first instants and how each band dies away; whether its lowest tone
 * glides; where its overtones lie and which of them lasts. Means over the strongest onsets, independent of level.
 */
export function strokeFeatures(heard: Heard): number[] {
  const strokes = strongestOnsets(heard);
  return [...decayImage(heard, strokes), ...partials(heard, strokes[0] ?? 0)].map((value) => (Number.isFinite(value) ? value : 0));
}

/** Frames of the strongest onsets, the strongest first; what lies behind another one by less than 50 ms is not one of its own. */
function strongestOnsets({ onsets, mel }: Heard): number[] {
  const all = onsets.bands[4],
    found: number[] = [];
  for (let i = 0; i < all.length; i++) if (all[i] > 1.5 && all[i] >= (all[i - 1] ?? 0) && all[i] > (all[i + 1] ?? 0)) found.push(i);
  // By the power that follows: flux alone would take a breath for a beat.
  const power = found.map((at) => {
    let sum = 0;
    for (let frame = at; frame < Math.min(mel.frameCount, at + 8); frame++)
      for (let band = 0; band < melBands; band++) sum += mel.power[frame * melBands + band];
    return sum;
  });
  const order = found.map((_, k) => k).sort((a, b) => power[b] - power[a]),
    chosen: number[] = [];
  for (const k of order) {
    if (chosen.length === mostStrokes) break;
    if (chosen.every((other) => Math.abs(other - found[k]) > 8)) chosen.push(found[k]);
  }
  return chosen.length ? chosen : [0];
}

function decayImage({ mel }: Heard, strokes: readonly number[]): number[] {
  const out = new Float32Array(slices.length * groups),
    image = new Float32Array(slices.length * groups),
    sorted = [...strokes].sort((a, b) => a - b);
  for (const at of strokes) {
    const next = sorted.find((other) => other > at) ?? Infinity;
    image.fill(0);
    let loudest = 1e-12;
    slices.forEach(([from, to], s) => {
      for (let group = 0; group < groups; group++) {
        let sum = 0,
          count = 0;
        for (let frame = Math.max(0, at + from); frame < Math.min(mel.frameCount, at + to, next); frame++)
          for (let band = group * groupWidth; band < (group + 1) * groupWidth; band++) {
            sum += mel.power[frame * melBands + band];
            count++;
          }
        // Behind the next onset nothing is known of this one: it goes on as it was.
        const value = count ? sum / count : at + from >= next && s > 0 ? image[(s - 1) * groups + group] : 0;
        image[s * groups + group] = value;
        loudest = Math.max(loudest, value);
      }
    });
    for (let k = 0; k < image.length; k++) out[k] += Math.log10(image[k] / loudest + 1e-6) / strokes.length;
  }
  return [...out];
}

const size = 4096,
  /** Where it is looked for tones, in seconds behind the onset (the middle of a window of 93 ms). */
  looks = [0.03, 0.08, 0.16, 0.3, 0.6];

function spectrumAt(mono: Float32Array, centre: number): Float32Array {
  const fft = realFft(size),
    shape = hann(size),
    time = new Float32Array(size),
    from = Math.round(centre - size / 2);
  for (let i = 0; i < size; i++) time[i] = (mono[from + i] ?? 0) * shape[i];
  fft.time.set(time);
  fft.forward();
  const { spectrum } = fft,
    out = new Float32Array(size / 2);
  for (let k = 1; k < out.length; k++) out[k] = Math.hypot(spectrum[2 * k], spectrum[2 * k + 1]);
  return out;
}

/** A peak's place between bins, by the parabola through the logarithms. */
function peakPlace(spectrum: Float32Array, k: number): number {
  const log = (at: number) => Math.log((spectrum[at] ?? 0) + 1e-12);
  return k + topOffset(log(k - 1), log(k), log(k + 1));
}

/** Glide of the strongest tone below 600 Hz, the places and levels of the strongest partials, and how they last. */
function partials({ mono, mel, sampleRateHz }: Heard, stroke: number): number[] {
  const onset = stroke * mel.hopSeconds * sampleRateHz,
    binHz = sampleRateHz / size,
    spectra = looks.map((seconds) => spectrumAt(mono, onset + seconds * sampleRateHz)),
    features: number[] = [];
  // The lowest strong tone and how it moves.
  const low = Math.round(600 / binHz),
    tones = spectra.map((spectrum) => {
      let at = 2;
      for (let k = 2; k < low; k++) if (spectrum[k] > spectrum[at]) at = k;
      return { hz: peakPlace(spectrum, at) * binHz, level: spectrum[at] };
    });
  const first = Math.max(1e-9, ...tones.map(({ level }) => level)),
    heardAt = (k: number) => tones[k].level > first * 0.01;
  features.push(Math.log2(tones[1].hz / 100) / 3);
  for (let k = 1; k < looks.length; k++)
    features.push(
      heardAt(k) && heardAt(k - 1) ? Math.max(-1, Math.min(1, Math.log2(tones[k].hz / tones[k - 1].hz))) : 0,
      Math.log10(tones[k].level / first + 1e-4) / 4,
    );
  // Partials of the second look: of those up to 8 kHz the six strongest.
  const body = spectra[1],
    later = spectra[3],
    peaks: { place: number; level: number; lasts: number }[] = [];
  let energy = 1e-12;
  for (let k = 2; k < Math.min(body.length - 1, Math.round(8000 / binHz)); k++) {
    energy += body[k] ** 2;
    if (body[k] > body[k - 1] && body[k] >= body[k + 1]) {
      const around = Math.max(later[k - 1], later[k], later[k + 1]);
      peaks.push({ place: peakPlace(body, k) * binHz, level: body[k], lasts: Math.max(-3, Math.log10(around / (body[k] + 1e-9) + 1e-3)) });
    }
  }
  peaks.sort((a, b) => b.level - a.level);
  const strongest = peaks.slice(0, 6),
    top = strongest[0]?.level ?? 1,
    ground = Math.min(...strongest.filter(({ level }) => level > top * 0.1).map(({ place }) => place));
  for (let k = 0; k < 6; k++) {
    const peak = strongest[k];
    features.push(peak ? Math.log10(peak.level / top + 1e-3) / 3 : -1, peak ? peak.lasts / 3 : -1);
    if (k < 4) features.push(peak ? Math.log2(peak.place / 200) / 4 : 0);
  }
  // How near the strong partials are to multiples of the lowest strong one.
  let off = 0,
    weight = 1e-9,
    inPeaks = 0;
  for (const { place, level } of strongest) {
    const ratio = place / ground;
    off += level * Math.min(1, Math.abs(ratio - Math.round(ratio)) * 2);
    weight += level;
    inPeaks += 2 * level ** 2;
  }
  features.push(off / weight, Math.min(1.5, inPeaks / energy), Number.isFinite(ground) ? Math.log2(ground / 200) / 4 : 0);
  return features;
}
