import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadTransforms } from '../core/dsp/real-fft';
import { toMono } from '../core/dsp/spectrogram';
import { hear } from '../core/analysis/listen/hear';
import { timbreVector } from '../core/analysis/instrument/timbre';
import type { Family } from '../core/theory/instruments';
import { decodeFile, toProjectRate } from '../server/jobs/pool/decode';
import { Chance } from './material/chance';
import type { Truth } from './truth';

/*
 * extract-layers.ts FOLDER,… COUNT SEED OUT.json: hears COUNT sounds in which one to four families sound at once, each a file of the
 * sets by itself or several laid over each other, and writes what the network of hidden instruments learns from.
 */
const [folders, countText, seedText, out] = process.argv.slice(2);
const count = Number(countText),
  chance = new Chance(Number(seedText));

export interface Layered {
  readonly timbre: readonly number[];
  readonly families: readonly Family[];
}

interface Source {
  readonly path: string;
  readonly family: Family;
}
const byFamily = new Map<Family, Source[]>();
for (const folder of folders.split(',')) {
  const { files } = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as { files: Truth[] };
  for (const { file, family, isLoop, lengthSec } of files)
    if (family !== 'mix' && isLoop && lengthSec < 26)
      byFamily.set(family, [...(byFamily.get(family) ?? []), { path: join(folder, file), family }]);
}
const known = [...byFamily.keys()];
const rateHz = 44100;

async function load({ path }: Source): Promise<Float32Array> {
  const { pcm } = await decodeFile(new Uint8Array(readFileSync(path)));
  return toMono(toProjectRate(pcm).channels);
}

/** Loudness of what sounds: the level that a tenth of all 50 ms blocks passes. */
function level(mono: Float32Array): number {
  const block = Math.round(rateHz * 0.05),
    levels: number[] = [];
  for (let at = 0; at + block <= mono.length; at += block) {
    let sum = 0;
    for (let i = at; i < at + block; i++) sum += mono[i] * mono[i];
    levels.push(Math.sqrt(sum / block));
  }
  return levels.sort((a, b) => b - a)[Math.floor(levels.length / 10)] ?? 0;
}

await loadTransforms();
const made: Layered[] = [];
while (made.length < count) {
  const layers = chance.weighted([
      [1, 35],
      [2, 35],
      [3, 22],
      [4, 8],
    ] as const),
    families = new Set<Family>();
  // Drums and bass are what is most often hidden, and what hides most often.
  while (families.size < layers)
    families.add(layers > 1 && chance.yes(0.3) ? chance.pick(['drums', 'bass', 'percussion'] as const) : chance.pick(known));
  const parts: Float32Array[] = [];
  for (const family of families) {
    const sources = byFamily.get(family);
    if (sources) parts.push(await load(chance.pick(sources)));
  }
  if (parts.length < families.size || parts.some((part) => part.length < rateHz / 2)) continue;
  const length = Math.min(12 * rateHz, Math.max(...parts.map((part) => part.length))),
    sum = new Float32Array(length);
  parts.forEach((part, k) => {
    const below = k === 0 ? 0 : chance.between(0, 14),
      gain = 10 ** (-below / 20) / Math.max(1e-4, level(part));
    for (let i = 0; i < length; i++) sum[i] += part[i % part.length] * gain;
  });
  const heard = hear({ sampleRateHz: rateHz, channels: [sum] });
  if (heard.gain === 0) continue;
  made.push({ timbre: timbreVector(heard).map((value) => Math.round(value * 1e4) / 1e4), families: [...families] });
  if (made.length % 200 === 0) console.error(`${made.length} of ${count}`);
}
writeFileSync(out, JSON.stringify(made));
