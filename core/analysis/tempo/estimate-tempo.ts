import type { OnsetEnvelope } from '../../dsp/onset-envelope';
import type { Candidate } from '../facts';
import { tempoPrior } from './length-candidates';

const lowestBpm = 52,
  highestBpm = 190;

/** Autocorrelation of the envelope around its mean, `[lag]` up to `lagCount`, 1 at lag 0; all 0 for silence. */
function autocorrelation(values: Float32Array, lagCount: number): Float32Array {
  const mean = values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);
  const centred = values.map((value) => value - mean);
  const out = new Float32Array(lagCount);
  for (let lag = 0; lag < lagCount; lag++) {
    let sum = 0;
    for (let i = 0; i + lag < centred.length; i++) sum += centred[i] * centred[i + lag];
    out[lag] = sum / Math.max(1, centred.length - lag);
  }
  const zero = out[0];
  return zero > 0 ? out.map((value) => value / zero) : out.fill(0);
}

function readAt(values: Float32Array, position: number): number {
  const index = Math.floor(position);
  if (index < 0 || index + 1 >= values.length) return 0;
  return values[index] + (values[index + 1] - values[index]) * (position - index);
}

/** The largest within ±`reach` of a lag: the envelope's hop is coarse against the precision of a candidate. */
function readNear(values: Float32Array, position: number, reach: number): number {
  return Math.max(readAt(values, position - reach), readAt(values, position), readAt(values, position + reach));
}

/**
 * How well tempos fit the onsets: autocorrelation at ½, 1, 2 and 4 beats (Ellis 2007; Percival & Tzanetakis 2014, in a
 * simple form) and a tempo prior, as a softmax over `given` and the curve's own peaks. Empty for fewer than two hits.
 */
export function estimateTempo(envelope: OnsetEnvelope, givenBpm: readonly number[]): Candidate<number>[] {
  const longest = Math.min(envelope.total.length - 1, Math.ceil(((60 / lowestBpm) * 4) / envelope.hopSeconds) + 2);
  if (longest < 20) return [];
  const curve = autocorrelation(envelope.total, longest);
  if (curve[0] === 0) return [];
  const lagOf = (tempoBpm: number) => 60 / tempoBpm / envelope.hopSeconds;
  const support = (tempoBpm: number) => {
    const lag = lagOf(tempoBpm);
    let sum = 0,
      weights = 0;
    for (const [multiple, weight] of [
      [0.5, 0.2],
      [1, 0.35],
      [2, 0.25],
      [4, 0.2],
    ] as const) {
      if (lag * multiple + 1 >= longest) continue;
      sum += weight * readNear(curve, lag * multiple, 0.5 + multiple * 0.25);
      weights += weight;
    }
    return weights > 0 ? sum / weights : 0;
  };
  const tempos = [...givenBpm, ...curvePeaks(support)].filter(
    (tempo, index, list) => list.findIndex((other) => Math.abs(other / tempo - 1) < 0.004) === index,
  );
  const scored = tempos.map((value) => ({ value, score: support(value) * 7 + Math.log(tempoPrior(value)) * 0.6 }));
  if (scored.length === 0) return [];
  const top = Math.max(...scored.map((each) => each.score));
  const total = scored.reduce((sum, each) => sum + Math.exp(each.score - top), 0);
  return scored
    .map(({ value, score }) => ({ value, probability: Math.exp(score - top) / total }))
    .sort((a, b) => b.probability - a.probability)
    .slice(0, 12);
}

function curvePeaks(support: (tempoBpm: number) => number): number[] {
  const grid: { tempo: number; score: number }[] = [];
  for (let tempo = lowestBpm; tempo <= highestBpm; tempo *= 1.004) grid.push({ tempo, score: support(tempo) });
  return grid
    .filter(
      (each, i) => i > 0 && i + 1 < grid.length && each.score > grid[i - 1].score && each.score >= grid[i + 1].score && each.score > 0.1,
    )
    .sort((a, b) => b.score - a.score)
    .slice(0, 6)
    .map((each) => each.tempo);
}
