import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadTransforms } from '../core/dsp/real-fft';
import { hear } from '../core/analysis/listen/hear';
import { strokeFeatures } from '../core/analysis/instrument/stroke';
import { nameInstrument } from '../core/analysis/instrument/name-instrument';
import { timbreVector } from '../core/analysis/instrument/timbre';
import { kindFeatures } from '../core/analysis/kind/kind-features';
import { keyFeatures, sharedKeyFeatures } from '../core/analysis/key/key-features';
import { barBeatsOf, measurePulse, rhythmCandidates } from '../core/analysis/tempo/candidates';
import { rhythmFeatures, sharedRhythmFeatures } from '../core/analysis/tempo/candidate-features';
import { oddFeatureCount, oddReadings } from '../core/analysis/tempo/odd-bars';
import { rhythmRanking } from '../core/analysis/tempo/read-rhythm';
import { decodeFile, toProjectRate } from '../server/jobs/pool/decode';
import type { Truth } from './truth';

/*
 * extract.ts FOLDER [PART/PARTS]: hears every file of a set and writes what the learned parts are trained on beside it:
 * features-PART.json (one line a file) and features-PART.bin (32-bit floats).
 */
const [folder, share = '0/1'] = process.argv.slice(2);
const [part, parts] = share.split('/').map(Number);
const { files } = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as { files: Truth[] };

export interface Extracted {
  readonly truth: Truth;
  /** Places in the blob, in floats. */
  readonly timbreAt: number;
  readonly timbreCount: number;
  readonly strokeAt: number;
  readonly strokeCount: number;
  readonly kindAt: number;
  readonly kindCount: number;
  readonly keyAt: number;
  readonly keyCount: number;
  readonly rhythmAt: number;
  readonly rhythmCount: number;
  readonly candidates: readonly (readonly [tempoBpm: number, bars: number, meter: string, startSeconds: number])[];
  /** Readings in odd bars, told by what the rhythm networks in place say of them. */
  readonly oddAt: number;
  readonly oddCount: number;
  readonly odd: readonly (readonly [tempoBpm: number, bars: number, barBeats: number, startSeconds: number])[];
}

const numbers: Float32Array[] = [],
  lines: string[] = [];
let at = 0;
const store = (values: readonly number[]): number => {
  numbers.push(Float32Array.from(values));
  at += values.length;
  return at - values.length;
};
await loadTransforms();
for (const [index, truth] of files.entries()) {
  if (index % parts !== part) continue;
  const { pcm } = await decodeFile(new Uint8Array(readFileSync(join(folder, truth.file))));
  const heard = hear(toProjectRate(pcm)),
    timbre = timbreVector(heard),
    stroke = strokeFeatures(heard),
    // The music without its tail, as the analysis takes it from the reading it believes in.
    music = truth.isLoop && truth.musicSec ? truth.leadSec + truth.musicSec : heard.span.lastSoundSeconds,
    sharedKey = sharedKeyFeatures(heard.notes, truth.isLoop ? truth.leadSec : 0, Math.min(heard.span.lastSoundSeconds, music));
  const key = Array.from({ length: 12 }, (_, tonic) => keyFeatures(sharedKey, tonic));
  const pulse = measurePulse(heard.onsets),
    shared = sharedRhythmFeatures(heard, pulse),
    candidates = rhythmCandidates(heard, pulse, shared.releases, [], shared.tempos),
    kind = [...timbre, ...kindFeatures(shared)],
    rhythm = truth.isLoop ? candidates.map((candidate) => rhythmFeatures(shared, candidate)) : [],
    rank = rhythmRanking(shared, nameInstrument(timbre, stroke).familyScores),
    odd = truth.isLoop && candidates.length ? oddReadings(heard, shared, { candidates, logits: rank(candidates) }, rank) : [];
  const line: Extracted = {
    truth,
    timbreAt: store(timbre),
    timbreCount: timbre.length,
    strokeAt: store(stroke),
    strokeCount: stroke.length,
    kindAt: store(kind),
    kindCount: kind.length,
    keyAt: store(key.flat()),
    keyCount: key[0].length,
    rhythmAt: store(rhythm.flat()),
    rhythmCount: rhythm[0]?.length ?? 0,
    candidates: truth.isLoop
      ? candidates.map(({ tempoBpm, bars, meter, startSeconds }) => [tempoBpm, bars, meter, startSeconds] as const)
      : [],
    oddAt: store(odd.flatMap(({ features }) => features)),
    oddCount: oddFeatureCount,
    odd: odd.map(({ candidate }) => [candidate.tempoBpm, candidate.bars, barBeatsOf(candidate), candidate.startSeconds] as const),
  };
  lines.push(JSON.stringify(line));
  if (lines.length % 200 === 0) console.error(`${lines.length} of ${Math.ceil(files.length / parts)}`);
}
writeFileSync(join(folder, `features-${part}.json`), lines.join('\n'));
const blob = Buffer.alloc(at * 4);
let offset = 0;
for (const values of numbers) {
  Buffer.from(values.buffer).copy(blob, offset);
  offset += values.byteLength;
}
writeFileSync(join(folder, `features-${part}.bin`), blob);
