import { isANumber } from '../../core/dsp/is-a-number';
import { integratedLoudness } from '../../core/analysis/loudness/loudness';
import { realFft } from '../../core/dsp/real-fft';
import { hannSingle } from '../../core/dsp/window';
import type { StretchMode } from '../../core/stretch/stretch-modes';
import { unroll, wrapFrame } from '../../core/stretch/wrap';
import { powerToDb, ratioToDb } from '../../core/units/level';
import { semitonesToRatio } from '../../core/units/pitch';

/*
 * Stupid measures, which know nothing of how a fit is made: what comes out held against what went in. They stand beside the clever ones,
 * which a burst has passed. Common practice; loudness by ITU-R BS.1770-4.
 */
const rateHz = 44100,
  blockFrames = Math.round(0.005 * rateHz),
  spectrumSize = 8192,
  /** Where the lowest octave begins, Hz; nine octaves reach 16 kHz. */
  lowestHz = 31.25,
  octaves = 9,
  /** A band so far below the loudest holds no energy worth comparing. */
  quietBandDb = -30,
  silentDbfs = -90;

/** How much may change, in dB. Held sounds' partials part when they are stretched, and their peak grows by itself. */
export const sanityLimits = { peakHitsDb: 3, peakHeldDb: 6, levelDb: 1.5, bandDb: 3 } as const;

export interface Sanity {
  /** Peak out over peak in, dB. */
  readonly peakGrowthDb: number;
  /** Mean level out over in, beyond what `expectedLevelDb` explains. */
  readonly levelChangeDb: number;
  /** By BS.1770, likewise; null for less than a gating block, and where a shift moves the sound to where the ear weighs it otherwise. */
  readonly loudnessChangeDb: number | null;
  /** Of the octave that changed most, beyond what `expectedLevelDb` explains. */
  readonly bandChangeDb: number;
  /** The loudest 5 ms around the seam over the loudest elsewhere in it or in the source, and the same of single samples: the larger. */
  readonly seamGrowthDb: number;
  readonly isExact: boolean;
  /** No NaN, infinity or denormal. */
  readonly isFinite: boolean;
}

const peakOf = (planes: readonly Float32Array[]): number => {
  let peak = 0;
  for (const plane of planes) for (const value of plane) if (Math.abs(value) > peak) peak = Math.abs(value);
  return peak;
};

const powerOf = (planes: readonly Float32Array[]): number => {
  let sum = 0;
  for (const plane of planes) for (const value of plane) sum += value * value;
  return sum / Math.max(1, planes.length * planes[0].length);
};

/**
 * What a change of length explains: a hit has its energy whatever the bar lasts, so in a bar twice as long the mean of hits falls by 3 dB, and
 * a tone's does not; and a hit that is moved up is over sooner. Anything between is no fault of the stretch.
 */
function expectedLevelDb(engine: StretchMode, lengthRatio: number, pitchRatio: number): readonly [number, number] {
  if (engine === 'tonal' || engine === 'voice' || engine === 'plain') return [0, 0];
  const thinned = [1, lengthRatio, pitchRatio, lengthRatio * pitchRatio].map((ratio) => -powerToDb(ratio));
  return [Math.min(...thinned), Math.max(...thinned)];
}

/** How far a value lies outside a range, with its sign; 0 inside. */
const beyond = (value: number, [low, high]: readonly [number, number]): number =>
  value < low ? value - low : value > high ? value - high : 0;

/** Mean power of each octave, read round the cycle; `scale` moves the octaves' edges. */
function octavePowers(planes: readonly Float32Array[], scale: number): number[] {
  const fft = realFft(spectrumSize),
    window = hannSingle(spectrumSize),
    powers = new Float64Array(spectrumSize / 2),
    frames = planes[0].length,
    hop = Math.max(spectrumSize / 4, Math.ceil(frames / 200));
  let count = 0;
  for (const plane of planes)
    for (let at = 0; at < frames; at += hop, count++) {
      const { time } = fft;
      for (let i = 0; i < spectrumSize; i++) time[i] = plane[(at + i) % frames] * window[i];
      fft.forward();
      const { spectrum } = fft;
      for (let k = 1; k < spectrumSize / 2; k++) powers[k] += spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
    }
  return Array.from({ length: octaves }, (_, octave) => {
    const bin = (hz: number) => Math.round((hz * spectrumSize) / rateHz),
      from = Math.max(1, bin(lowestHz * 2 ** octave * scale)),
      to = Math.min(spectrumSize / 2, bin(lowestHz * 2 ** (octave + 1) * scale));
    let sum = 0;
    for (let k = from; k < to; k++) sum += powers[k];
    return sum / Math.max(1, count);
  });
}

/** The largest change of an octave that holds energy, after the shift, in dB; octaves that the shift moves beyond hearing are left out. */
function bandChangeDb(
  source: readonly Float32Array[],
  made: readonly Float32Array[],
  pitchRatio: number,
  allowed: readonly [number, number],
  fromHz = lowestHz,
): number {
  const before = octavePowers(source, 1),
    after = octavePowers(made, pitchRatio),
    // A constant leaks into the lowest octave and is none of its sound.
    loudest = Math.max(...before, powerOf(source.map(meanOnly)) * spectrumSize * spectrumSize);
  let worst = 0;
  before.forEach((power, octave) => {
    const top = lowestHz * 2 ** (octave + 1);
    if (top <= fromHz || power <= 0 || ratioToDb(Math.sqrt(power / loudest)) < quietBandDb || top * Math.max(1, pitchRatio) > rateHz * 0.4)
      return;
    const change = beyond(ratioToDb(Math.sqrt(after[octave] / power)), allowed);
    if (Math.abs(change) > Math.abs(worst)) worst = change;
  });
  return worst;
}

const voiceColourFromHz = 500;
const meanOnly = (plane: Float32Array): Float32Array => Float32Array.of(plane.reduce((sum, value) => sum + value, 0) / plane.length);

/** Root of the loudest mean square over 5 ms that begins at one of the places; read round the cycle. */
function loudestBlock(planes: readonly Float32Array[], from: number, to: number): number {
  let loudest = 0;
  for (const plane of planes) {
    const length = Math.min(blockFrames, plane.length),
      before = wrapFrame(from, plane.length),
      round = unroll(plane, 0, to - from + length + before);
    let sum = 0;
    for (let i = 0; i < length; i++) sum += round[before + i] ** 2;
    for (let start = before; start < before + to - from; start++) {
      if (sum > loudest * length) loudest = sum / length;
      sum += round[start + length] ** 2 - round[start] ** 2;
    }
  }
  return Math.sqrt(loudest);
}

function seamGrowthDb(source: readonly Float32Array[], made: readonly Float32Array[]): number {
  const frames = made[0].length,
    reach = Math.min(2 * blockFrames, frames >> 2),
    around = loudestBlock(made, frames - reach, frames + reach - blockFrames),
    elsewhere = Math.max(
      loudestBlock(source, 0, source[0].length),
      frames > 6 * reach ? loudestBlock(made, reach, frames - reach - blockFrames) : 0,
    );
  let nearPeak = 0;
  for (const plane of made) for (let i = 1; i <= reach; i++) nearPeak = Math.max(nearPeak, Math.abs(plane[frames - i]));
  const inside = Math.max(peakOf(source), peakOf(made.map((plane) => plane.subarray(0, Math.max(1, frames - reach)))));
  return Math.max(ratioToDb(around / Math.max(elsewhere, 1e-9)), ratioToDb(nearPeak / Math.max(inside, 1e-9)));
}

/** What comes out of a fit held against what went in; both `[channel][frame]`, both read round and round. */
export function saneFit(
  source: readonly Float32Array[],
  made: readonly Float32Array[],
  { engine, targetFrames, shiftSemitones }: { engine: StretchMode; targetFrames: number; shiftSemitones: number },
): Sanity {
  const pitchRatio = engine === 'plain' ? source[0].length / targetFrames : semitonesToRatio(shiftSemitones),
    allowed = expectedLevelDb(engine, made[0].length / source[0].length, engine === 'plain' ? 1 : pitchRatio),
    levelIn = ratioToDb(Math.sqrt(powerOf(source))),
    isFinite = made.every((plane) => plane.every((value) => isANumber(value) && (value === 0 || Math.abs(value) >= 1.2e-38))),
    loudness = [source, made].map((planes) => integratedLoudness(planes, rateHz));
  if (levelIn < silentDbfs)
    return {
      peakGrowthDb: peakOf(made) < 1e-4 ? 0 : ratioToDb(peakOf(made)) - silentDbfs,
      levelChangeDb: 0,
      loudnessChangeDb: null,
      bandChangeDb: 0,
      seamGrowthDb: 0,
      isExact: made.every((plane) => plane.length === targetFrames),
      isFinite,
    };
  return {
    peakGrowthDb: ratioToDb(peakOf(made) / peakOf(source)),
    levelChangeDb: beyond(ratioToDb(Math.sqrt(powerOf(made))) - levelIn, allowed),
    loudnessChangeDb:
      shiftSemitones !== 0 || engine === 'plain' || loudness[0] === null || loudness[1] === null
        ? null
        : beyond(loudness[1] - loudness[0], allowed),
    // A voice's colour stays where it is when its pitch moves; but the lowest octaves hold one or two partials each, which leave them.
    bandChangeDb: bandChangeDb(
      source,
      made,
      engine === 'voice' ? 1 : pitchRatio,
      allowed,
      engine === 'voice' && shiftSemitones !== 0 ? voiceColourFromHz : lowestHz,
    ),
    seamGrowthDb: seamGrowthDb(source, made),
    isExact: made.every((plane) => plane.length === targetFrames),
    isFinite,
  };
}

export const peakLimitDb = (engine: StretchMode): number =>
  engine === 'percussive' || engine === 'plain' ? sanityLimits.peakHitsDb : sanityLimits.peakHeldDb;
