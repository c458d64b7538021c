import type { Candidate } from '../facts';
import { spectrogram } from '../../dsp/spectrogram';

export interface TimbreMeasures {
  /** Energy-weighted mean frequency. */
  readonly centroidHz: number;
  /** Share of the energy below 150 Hz and above 5 kHz. */
  readonly lowShare: number;
  readonly highShare: number;
  /** How even the level is over time, 0 (single hits) – 1 (steady). */
  readonly sustain: number;
}

/** Measures over the whole sound; silence gives zeros. */
export function measureTimbre(mono: Float32Array, sampleRateHz: number): TimbreMeasures {
  const { frameCount, bins, magnitudes, size } = spectrogram(mono, 2048, 1024);
  let all = 0,
    weighted = 0,
    low = 0,
    high = 0;
  const levels: number[] = [];
  for (let frame = 0; frame < frameCount; frame++) {
    let energy = 0;
    for (let k = 1; k < bins; k++) {
      const hz = (k * sampleRateHz) / size,
        power = magnitudes[frame * bins + k] ** 2;
      energy += power;
      weighted += power * hz;
      if (hz < 150) low += power;
      else if (hz > 5000) high += power;
    }
    all += energy;
    levels.push(Math.sqrt(energy));
  }
  if (all === 0) return { centroidHz: 0, lowShare: 0, highShare: 0, sustain: 0 };
  const loud = [...levels].sort((a, b) => b - a)[Math.floor(levels.length * 0.05)] || Math.max(...levels);
  return {
    centroidHz: weighted / all,
    lowShare: low / all,
    highShare: high / all,
    sustain: Math.min(1, levels.reduce((a, b) => a + Math.min(b, loud), 0) / levels.length / loud),
  };
}

/**
 * A cautious first guess of the instrument from a few measures; rules by common practice, never surer than 0.6.
 * Names outweigh it; a learned classifier takes its place in a later analyser version.
 */
export function estimateInstrument(
  timbre: TimbreMeasures,
  pitched: boolean,
  centreNote: number | null,
  onsetsPerSecond: number,
): Candidate<string>[] {
  const chances: [string, number][] = [];
  if (!pitched) {
    chances.push(
      ['kit', timbre.lowShare > 0.12 ? 0.55 : 0.15],
      ['hats', timbre.highShare > 0.5 && onsetsPerSecond > 2 ? 0.4 : 0.08],
      ['shaker', timbre.highShare > 0.4 ? 0.25 : 0.08],
      ['conga', timbre.lowShare < 0.5 && timbre.highShare < 0.2 ? 0.25 : 0.05],
    );
    if (onsetsPerSecond < 0.7) chances.push(['riser', 0.2], ['texture', 0.2]);
  } else {
    const low = centreNote !== null && centreNote < 50;
    chances.push([timbre.sustain > 0.6 ? 'synth-bass' : 'electric-bass', low ? 0.55 : 0.05]);
    if (!low) {
      chances.push(
        ['synth-pad', timbre.sustain > 0.65 && onsetsPerSecond < 2 ? 0.45 : 0.06],
        ['strings', timbre.sustain > 0.65 ? 0.15 : 0.04],
        ['piano', timbre.sustain < 0.6 ? 0.2 : 0.08],
        ['electric-piano', 0.12],
        ['acoustic-guitar', timbre.sustain < 0.55 && onsetsPerSecond > 2 ? 0.2 : 0.06],
        ['synth-lead', 0.08],
        ['synth-pluck', 0.06],
      );
    }
  }
  const total = Math.max(
    1,
    chances.reduce((sum, [, chance]) => sum + chance, 0),
  );
  return chances.map(([value, chance]) => ({ value, probability: chance / total })).sort((a, b) => b.probability - a.probability);
}
