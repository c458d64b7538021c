import { beatsToSeconds } from '../../units/time';
import { topOffset } from '../../dsp/parabola';
import { autocorrelation } from '../../dsp/autocorrelation';
import type { Heard } from '../listen/hear';
import { melBands } from '../listen/mel';
import { lowestNote, noteCount } from '../notes/note-fit';
import { accentFeatureCount, accentFeatures } from './accent-features';
import { barBeatsOf, beatTempos, lagValue, type Pulse, type RhythmCandidate } from './candidates';
import { lastReleases, releaseFeatureCount, releaseFeatures, type Release } from './releases';
import { cutFeatureCount, cutFeatures } from './cut-features';
import { gapsBetween, gridFeatureCount, gridFeatures, NoteLikeness, type SharedGridFeatures } from './grid-features';

/** What the features of all candidates of a sound share. */
export interface SharedRhythmFeatures extends SharedGridFeatures {
  readonly heard: Heard;
  readonly pulse: Pulse;
  /** The strongest pulses, see `beatTempos`. */
  readonly tempos: readonly number[];
  /** Where the sound dies away for good, the sharpest bend first. */
  readonly releases: readonly Release[];
  /** Onset bands, each value the largest within ±2 frames (12 ms). */
  readonly near: readonly Float32Array[];
  readonly means: readonly number[];
  /** How much the notes change at each tone frame, 0–1, and the mean. */
  readonly noteShare: number;
  readonly change: Float32Array;
  readonly changeMean: number;
  /** How well the colour of the sound repeats at each lag. */
  readonly likeness: { readonly hopSeconds: number; readonly curve: Float32Array };
}

const meanOf = (values: Float32Array): number => values.reduce((a, b) => a + b, 0) / (values.length || 1);

/** What all readings of a loop's rhythm share, worked out once for the hundred and more that are then judged. */
export function sharedRhythmFeatures(heard: Heard, pulse: Pulse): SharedRhythmFeatures {
  const near = heard.onsets.bands.map((values) => {
    const out = new Float32Array(values.length);
    for (let i = 0; i < values.length; i++) {
      let most = 0;
      for (let k = Math.max(0, i - 2); k <= Math.min(values.length - 1, i + 2); k++) if (values[k] > most) most = values[k];
      out[i] = most;
    }
    return out;
  });
  const all = heard.onsets.bands[4],
    onsetSeconds: number[] = [],
    onsetStrengths: number[] = [];
  for (let i = 0; i < all.length; i++)
    if (all[i] > 1.5 && all[i] === near[4][i] && all[i] > (all[i - 1] ?? 0)) {
      // A parabola through the top gives the place between the frames.
      const shift = topOffset(all[i - 1] ?? 0, all[i], all[i + 1] ?? 0);
      onsetSeconds.push(Math.max(0, i - 1 + shift) * heard.onsets.hopSeconds);
      onsetStrengths.push(Math.min(12, all[i]));
    }
  const change = noteChange(heard, 0, noteCount),
    lowChange = noteChange(heard, 0, lowNotes);
  return {
    heard,
    pulse,
    tempos: beatTempos(pulse, { onsetSeconds, onsetStrengths }),
    releases: lastReleases(heard.mel, 4),
    near,
    means: near.map(meanOf),
    noteShare: noteShare(heard),
    change,
    changeMean: meanOf(change),
    likeness: likenessCurve(heard),
    onsetSeconds,
    onsetStrengths,
    gapSeconds: gapsBetween(onsetSeconds),
    lowChange,
    lowChangeMean: meanOf(lowChange),
    noteLikeness: new NoteLikeness(heard.notes),
    noteHopSeconds: heard.notes.hopSeconds,
    heardSeconds: heard.heardSeconds,
  };
}

/** How much of what sounds is notes rather than noise. */
function noteShare({ notes }: Heard): number {
  let tones = 0,
    rest = 1e-9;
  for (const value of notes.strengths) tones += value;
  for (const value of notes.broad) rest += value;
  return tones / (tones + rest);
}

/** Notes below E3. */
const lowNotes = 52 - lowestNote;

/** One less the cosine between the notes of the next three frames and of the three before. */
function noteChange({ notes }: Heard, from: number, to: number): Float32Array {
  const { frameCount, strengths } = notes,
    out = new Float32Array(frameCount);
  for (let frame = 1; frame < frameCount; frame++) {
    let ab = 0,
      aa = 1e-9,
      bb = 1e-9;
    for (let note = from; note < to; note++) {
      let a = 0,
        b = 0;
      for (let k = 1; k <= 3; k++) {
        if (frame - k >= 0) a += strengths[(frame - k) * noteCount + note];
        if (frame + k - 1 < frameCount) b += strengths[(frame + k - 1) * noteCount + note];
      }
      ab += a * b;
      aa += a * a;
      bb += b * b;
    }
    out[frame] = aa > 1e-4 || bb > 1e-4 ? 1 - ab / Math.sqrt(aa * bb) : 0;
  }
  return out;
}

function likenessCurve({ mel }: Heard): SharedRhythmFeatures['likeness'] {
  const step = 4,
    groups = 8,
    count = Math.ceil(mel.frameCount / step),
    hopSeconds = mel.hopSeconds * step,
    lags = Math.min(count, Math.ceil(26 / hopSeconds));
  const sum = new Float32Array(lags);
  for (let group = 0; group < groups; group++) {
    const series = new Float32Array(count);
    let mean = 0;
    for (let i = 0; i < count; i++) {
      for (let frame = i * step; frame < Math.min(mel.frameCount, (i + 1) * step); frame++)
        for (let band = (group * melBands) / groups; band < ((group + 1) * melBands) / groups; band++)
          series[i] += mel.levels[frame * melBands + band];
      mean += series[i] / count;
    }
    for (let i = 0; i < count; i++) series[i] -= mean;
    const curve = autocorrelation(series, lags);
    for (let lag = 0; lag < lags; lag++) sum[lag] += curve[lag] / Math.max(count * 0.15, count - lag);
  }
  const first = sum[0];
  return { hopSeconds, curve: first > 0 ? sum.map((value) => value / first) : sum };
}

/** How much the notes change near a moment. */
export function turnAt({ heard, change }: SharedRhythmFeatures, seconds: number): number {
  const frame = Math.round(seconds / heard.notes.hopSeconds);
  return frame > 0 && frame < change.length ? Math.max(change[frame], change[frame - 1] * 0.8, (change[frame + 1] ?? 0) * 0.8) : 0;
}

/** Beats of a candidate whose accents are looked at. */
const mostBeats = 64;

/** What names say, as far as it concerns tempo; empty from sound alone. */
export interface NamedRhythm {
  readonly tempos: readonly number[];
  readonly bars: number | null;
}

const squash = (value: number): number => Math.log1p(Math.max(0, value));
const closeness = (value: number, scale: number): number => Math.exp(-Math.abs(value) / scale);

export const rhythmFeatureCount = 104 + gridFeatureCount + accentFeatureCount + releaseFeatureCount + cutFeatureCount;

const beatsOf = (candidate: RhythmCandidate): number => candidate.bars * barBeatsOf(candidate);

/** Where what was heard of a reading ends. */
const heardEndOf = ({ heard }: SharedRhythmFeatures, candidate: RhythmCandidate): number =>
  Math.min(candidate.startSeconds + beatsOf(candidate) * beatsToSeconds(1, candidate.tempoBpm), heard.heardSeconds) - 0.01;

/** Beats of a reading that lie in what was heard. */
function countedBeats(shared: SharedRhythmFeatures, candidate: RhythmCandidate): number {
  const heard = (heardEndOf(shared, candidate) - candidate.startSeconds) / beatsToSeconds(1, candidate.tempoBpm);
  return Math.max(1, Math.min(beatsOf(candidate), Math.floor(heard + 0.05)));
}

/** Strength of a band's onsets on the beats, the halves, the quarters and the thirds of them, each against the band's mean; in 6/8 beats, thirds, halves, sixths. */
export function strengthOnParts(shared: SharedRhythmFeatures, candidate: RhythmCandidate, band: number): number[] {
  const { heard, near, means } = shared,
    { startSeconds, meter, tempoBpm } = candidate,
    beat = beatsToSeconds(1, tempoBpm),
    counted = countedBeats(shared, candidate),
    parts = meter === '6/8' ? [0, 1 / 3, 2 / 3, 1 / 2, 1 / 6, 5 / 6] : [0, 1 / 2, 1 / 4, 3 / 4, 1 / 3, 2 / 3];
  return parts.map((part) => {
    let sum = 0;
    for (let k = 0; k < counted; k++)
      sum += near[band][Math.round((startSeconds + (k + part) * beat - 0.003) / heard.onsets.hopSeconds) + 1] ?? 0;
    return squash(sum / counted / (means[band] + 1e-6));
  });
}

const nearGridSeconds = 0.022;

/** Share of the onsets' strength near grids of 1, 2, 3, 4, 6 a beat, less the share that chance would give. */
export function sharesNearGrids(shared: SharedRhythmFeatures, candidate: RhythmCandidate): number[] {
  const beat = beatsToSeconds(1, candidate.tempoBpm),
    music = beatsOf(candidate) * beat,
    grids = [1, 2, 3, 4, 6].map((per) => ({ cell: beat / per, inside: 0 }));
  let allOnsets = 1e-6;
  for (let k = 0; k < shared.onsetSeconds.length; k++) {
    const t = shared.onsetSeconds[k] - candidate.startSeconds,
      strength = shared.onsetStrengths[k];
    if (t < -0.03 || t > music + 0.03) continue;
    allOnsets += strength;
    for (const grid of grids) {
      const place = t / grid.cell;
      if (Math.abs(place - Math.round(place)) * grid.cell < nearGridSeconds) grid.inside += strength;
    }
  }
  return grids.map(({ cell, inside }) => inside / allOnsets - Math.min(1, (2 * nearGridSeconds) / cell));
}

/** Features of one candidate (after the measures that carried an earlier experiment, and those of Percival & Tzanetakis 2014 and Böck et al. 2015). */
export function rhythmFeatures(shared: SharedRhythmFeatures, candidate: RhythmCandidate): number[] {
  const { heard, pulse, near, means } = shared,
    { span, onsets } = heard,
    { tempoBpm, bars, meter, startSeconds } = candidate,
    perBar = barBeatsOf(candidate),
    beat = beatsToSeconds(1, tempoBpm),
    beats = bars * perBar,
    music = beats * beat,
    endSeconds = startSeconds + music,
    features: number[] = [];
  const frameOf = (seconds: number) => Math.round((seconds - 0.003) / onsets.hopSeconds) + 1;
  const at = (band: number, seconds: number) => near[band][frameOf(seconds)] ?? 0;
  const heardEnd = heardEndOf(shared, candidate),
    counted = countedBeats(shared, candidate);

  for (const band of [0, 2, 3, 4]) features.push(...strengthOnParts(shared, candidate, band));
  // Downbeats, second half, backbeat.
  const byBeat = (band: number, which: (beatInBar: number) => boolean) => {
    let sum = 0,
      count = 0;
    for (let k = 0; k < counted; k++)
      if (which(k % perBar)) {
        sum += at(band, startSeconds + k * beat);
        count++;
      }
    return count ? squash(sum / count / (means[band] + 1e-6)) : 0;
  };
  for (const band of [0, 3, 4]) {
    features.push(byBeat(band, (k) => k === 0));
    features.push(byBeat(band, (k) => k === Math.floor(perBar / 2)));
    features.push(byBeat(band, (k) => k % 2 === 1));
  }
  features.push(...sharesNearGrids(shared, candidate));
  // Repetition of onsets and of colour.
  const lag = (seconds: number, curve = pulse.all) => lagValue(curve, seconds / pulse.hopSeconds);
  const bar = perBar * beat;
  features.push(
    lag(beat / 4),
    lag(beat / 3),
    lag(beat / 2),
    lag(beat),
    lag(beat * 1.5),
    lag(beat * 2),
    lag(beat * 3),
    lag(bar),
    lag(bar * 2),
    lag(bar * 4),
  );
  features.push(lag(beat, pulse.low), lag(beat * 2, pulse.low), lag(bar, pulse.low), lag(beat / 2, pulse.high), lag(beat, pulse.high));
  const like = (seconds: number) => lagValue(shared.likeness.curve, seconds / shared.likeness.hopSeconds);
  features.push(like(beat / 2), like(beat), like(beat * 2), like(bar), like(bar * 2), like(bar * 4));
  // Harmony changes at bars rather than beats.
  const changeAt = (step: number, from: number) => {
    let sum = 0,
      count = 0;
    for (let seconds = startSeconds + from; seconds < heardEnd; seconds += step) {
      const frame = Math.round(seconds / heard.notes.hopSeconds);
      if (frame > 0 && frame < shared.change.length) {
        sum += turnAt(shared, seconds);
        count++;
      }
    }
    return count ? sum / count - shared.changeMean : 0;
  };
  features.push(changeAt(bar, bar), changeAt(bar, bar / 2), changeAt(beat, beat), changeAt(2 * bar, 2 * bar), shared.changeMean);
  // The tempo itself, and whether it is a whole or half number as exactly as the length can tell.
  const octave = Math.log2(tempoBpm / 115);
  features.push(
    octave,
    octave * octave,
    octave ** 3,
    closeness(Math.max(0, 75 - tempoBpm), 10),
    closeness(Math.max(0, tempoBpm - 155), 10),
  );
  const misfit = (step: number) => {
    const rounded = Math.round(tempoBpm / step) * step;
    return rounded > 0 ? (60 / rounded - beat) * beats : 1;
  };
  for (const step of [1, 0.5])
    features.push(closeness(misfit(step), 0.0001), closeness(misfit(step), 0.002), closeness(misfit(step), 0.012));
  // How many whole numbers would fit as well: a long loop's whole number says more than a short one's.
  features.push(squash((0.2 / music) * tempoBpm));
  // How the bars meet the end of the file and of the sound.
  const fileGap = span.fileSeconds - endSeconds,
    soundGap = span.lastSoundSeconds - endSeconds;
  features.push(
    closeness(fileGap, 0.0003),
    closeness(fileGap, 0.006),
    closeness(fileGap, 0.03),
    fileGap < -0.02 ? 1 : 0,
    squash(fileGap / beat),
  );
  features.push(closeness(soundGap, 0.03), soundGap < -0.5 * beat ? 1 : 0, squash(soundGap / beat), Math.max(-1, span.endLevelDb / 60));
  const lastOnset = shared.onsetSeconds.at(-1) ?? 0;
  features.push(Math.max(-2, Math.min(4, (endSeconds - lastOnset) / beat)), lastOnset > endSeconds + 0.03 ? 1 : 0);
  features.push(Math.max(-2, Math.min(3, Math.log2(Math.max(0.05, (endSeconds - lastOnset) / (span.fileSeconds - lastOnset + 0.02))))));
  // The start: silence that is longer than a click and does not belong to the music.
  features.push(
    startSeconds > 0 ? 1 : 0,
    startSeconds > 0 ? Math.min(2, startSeconds / 0.03) : 0,
    startSeconds > 0 ? Math.min(2, startSeconds / beat) : 0,
  );
  features.push(span.firstSoundSeconds > 0.002 ? 1 : 0, at(4, startSeconds) > 2 ? 1 : 0);
  // The reading.
  features.push(
    Math.log2(bars),
    [1, 2, 4, 8, 16].includes(bars) ? 1 : 0,
    bars === 1 ? 1 : 0,
    bars === 3 || bars === 6 || bars === 12 ? 1 : 0,
    meter === '3/4' ? 1 : 0,
    meter === '6/8' ? 1 : 0,
  );
  features.push(
    squash(shared.onsetSeconds.length / Math.max(1, span.lastSoundSeconds / beat)),
    squash(span.fileSeconds / 4),
    squash(music / 4),
  );
  features.push(candidate.source === 'length' ? 1 : 0, shared.noteShare);
  features.push(...gridFeatures(shared, candidate));
  const everyBeat = (of: (seconds: number) => number): number[] =>
    Array.from({ length: Math.min(counted, mostBeats) }, (_, k) => of(startSeconds + k * beat));
  features.push(
    ...accentFeatures({
      all: everyBeat((seconds) => squash(at(4, seconds))),
      low: everyBeat((seconds) => squash(at(0, seconds))),
      turns: everyBeat((seconds) => turnAt(shared, seconds)),
      onsetsAt: (beats) => lag(beat * beats),
      colourAt: (beats) => like(beat * beats),
      notesAt: (beats) => shared.noteLikeness.at(beat * beats),
    }),
    ...releaseFeatures(shared.releases, endSeconds, beat),
    ...cutFeatures(span, endSeconds),
  );
  return features;
}
