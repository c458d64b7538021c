import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { hear, type Heard } from '~core/analysis/listen/hear';
import { melBands } from '~core/analysis/listen/mel';
import { timbreVector } from '~core/analysis/instrument/timbre';
import { likenessOf } from '~core/analysis/similarity/likeness';
import { filterSignal, passFilter } from '~core/dsp/biquad';
import { loadTransforms } from '~core/dsp/real-fft';
import { resampleCyclic } from '~core/dsp/resample';
import { parseWav } from '~core/formats/wav/parse';
import { setStem } from '~core/names/set-role';
import { soundLikeness } from '~core/search/near';

interface Sound {
  readonly set: string;
  readonly likeness: Int8Array;
  readonly mfcc: readonly number[];
}

/** Means and spreads of 13 cepstral coefficients over the mel bands (Davis & Mermelstein 1980): the plain distance that all else is held against. */
function mfccOf({ mel }: Heard): number[] {
  const count = 13,
    sums = new Array<number>(count).fill(0),
    squares = new Array<number>(count).fill(0);
  let frames = 0;
  for (let frame = 0; frame < mel.frameCount; frame += 2) {
    let level = 0;
    for (let band = 0; band < melBands; band++) level += mel.levels[frame * melBands + band];
    if (level <= 0) continue;
    frames++;
    for (let k = 0; k < count; k++) {
      let value = 0;
      for (let band = 0; band < melBands; band++)
        value += mel.levels[frame * melBands + band] * Math.cos((Math.PI * k * (band + 0.5)) / melBands);
      sums[k] += value;
      squares[k] += value * value;
    }
  }
  // The level itself, the first coefficient, says nothing of the colour.
  return sums.slice(1).flatMap((sum, k) => {
    const mean = sum / Math.max(1, frames);
    return [mean, Math.sqrt(Math.max(0, squares[k + 1] / Math.max(1, frames) - mean * mean))];
  });
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.sqrt(a.reduce((sum, value, k) => sum + (value - b[k]) ** 2, 0));

/** What may be done to a loop so that it is the same sound still. */
const alterations: readonly ((samples: Float32Array, rateHz: number) => Float32Array)[] = [
  (samples, rateHz) => Float32Array.from(filterSignal(samples, passFilter('high', 180, rateHz)), (value) => value * 0.3),
  (samples) => samples.slice(0, samples.length >> 1),
  (samples) => resampleCyclic(samples, Math.round(samples.length * 1.06)),
];

function soundOf(samples: Float32Array, sampleRateHz: number, set: string): Sound {
  const heard = hear({ sampleRateHz, channels: [samples] });
  return { set, likeness: likenessOf(timbreVector(heard)), mfcc: mfccOf(heard) };
}

/** Mean of the precisions at each relevant place (Buckley & Voorhees 2000). */
function averagePrecision(ranked: readonly boolean[]): number {
  let hits = 0,
    sum = 0;
  ranked.forEach((isRelevant, place) => {
    if (isRelevant) sum += ++hits / (place + 1);
  });
  return hits === 0 ? 0 : sum / hits;
}

export interface LikenessResult {
  readonly queries: number;
  readonly byLikeness: number;
  readonly byMfcc: number;
}

/** How far above the rest the siblings and the original of an altered loop stand. @param folder with WAV files, in folders by pack */
export async function likenessOfFolder(folder: string): Promise<{ siblings: LikenessResult; altered: LikenessResult }> {
  await loadTransforms();
  const sounds: (Sound & { readonly samples: Float32Array; readonly rateHz: number })[] = [];
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !/\.wav$/i.test(entry.name)) continue;
    const path = join(entry.parentPath, entry.name);
    try {
      const { channels, sampleRateHz } = parseWav(new Uint8Array(readFileSync(path))),
        samples = channels[0].slice(0, sampleRateHz * 20);
      if (samples.length < sampleRateHz / 4) continue;
      const own = relative(folder, path);
      sounds.push({ ...soundOf(samples, sampleRateHz, setStem(own) ?? own), samples, rateHz: sampleRateHz });
    } catch {
      // Some of a pack's files are broken on purpose.
    }
  }
  const rank = (query: Sound, among: readonly Sound[], isRelevant: (each: Sound) => boolean, by: 'likeness' | 'mfcc'): number =>
    averagePrecision(
      among
        .map((each) => ({
          each,
          far: by === 'mfcc' ? distance(query.mfcc, each.mfcc) : -soundLikeness(query.likeness, 0, each.likeness, 0),
        }))
        .sort((a, b) => a.far - b.far)
        .map(({ each }) => isRelevant(each)),
    );
  const result = (queries: readonly { query: Sound; among: readonly Sound[]; isRelevant: (each: Sound) => boolean }[]): LikenessResult => {
    const mean = (by: 'likeness' | 'mfcc') =>
      queries.reduce((sum, { query, among, isRelevant }) => sum + rank(query, among, isRelevant, by), 0) / queries.length;
    return { queries: queries.length, byLikeness: mean('likeness'), byMfcc: mean('mfcc') };
  };
  const siblings = sounds
      .map((query) => ({ query, among: sounds.filter((each) => each !== query), isRelevant: (each: Sound) => each.set === query.set }))
      .filter(({ among, isRelevant }) => among.some(isRelevant)),
    altered = sounds
      .filter((_, k) => k % 3 === 0)
      .flatMap((original) =>
        alterations.map((alter) => ({
          query: soundOf(alter(original.samples, original.rateHz), original.rateHz, original.set),
          among: sounds,
          isRelevant: (each: Sound) => each === original,
        })),
      );
  return { siblings: result(siblings), altered: result(altered) };
}
