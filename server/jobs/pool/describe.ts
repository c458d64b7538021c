import { readFile } from 'node:fs/promises';
import { analyseAudio, type Analysis, type Detail } from '~core/analysis/analyse-audio';
import { analyseNotes } from '~core/analysis/analyse-notes';
import { chooseFacts } from '~core/analysis/evidence/choose';
import { instrumentChances } from '~core/analysis/evidence/instrument-chances';
import { analyserVersion, type Evidence, type LoopKind } from '~core/analysis/facts';
import { loadTransforms } from '~core/dsp/real-fft';
import { sniffFormat } from '~core/formats/sniff';
import { parseSmf } from '~core/formats/smf/parse';
import { noTags } from '~core/formats/tags/embedded';
import type { Family } from '~core/theory/instruments';
import { keyName, type Key } from '~core/theory/key';
import { decodeFile, toProjectRate } from './decode';
import { longFromSeconds, readLongFile } from './long-sound';
import { promisedSeconds } from './sound-stream';

interface Rival<V> {
  readonly value: V;
  readonly probability: number;
}

/** Everything known of one file, as `docs/formats/analysis.schema.json` says. */
export interface Description {
  readonly analyserVersion: number;
  readonly kind: LoopKind;
  readonly kindConfidence: number;
  readonly tempoBpm: number | null;
  readonly tempoConfidence: number | null;
  readonly tempoRivals: readonly Rival<number>[];
  readonly beats: number | null;
  readonly bars: number | null;
  readonly beatsConfidence: number | null;
  readonly meter: string | null;
  readonly meterConfidence: number | null;
  readonly key: Key | null;
  readonly keyName: string | null;
  readonly keyConfidence: number | null;
  readonly keyRivals: readonly Rival<Key | 'unpitched'>[];
  readonly pitched: boolean | null;
  readonly family: Family | null;
  readonly familyConfidence: number | null;
  readonly familyRivals: readonly Rival<string>[];
  readonly instrument: string | null;
  readonly instrumentConfidence: number | null;
  readonly tuningCents: number;
  readonly lengthSeconds: number;
  readonly loopStartSeconds: number | null;
  readonly loopEndSeconds: number | null;
  readonly soundEndSeconds: number;
  readonly loudnessLufs: number | null;
  readonly peakDbfs: number | null;
  /** Near for sounds alike: 32 whole numbers, −127 … 127. */
  readonly likeness: readonly number[] | null;
  /** Known again in another copy of the recording: eight hexadecimal digits each 93 ms. */
  readonly print: string;
  readonly detail: Detail | null;
  readonly evidence: readonly Evidence[];
}

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

/** @throws {FormatError} with a sentence for the person, when the file cannot be read */
export async function hearFile(path: string, vendorPath: string, withTags: boolean): Promise<Analysis> {
  if ((promisedSeconds(path) ?? 0) > longFromSeconds) {
    await loadTransforms();
    const { head, whole, tags } = await readLongFile(path, null);
    return analyseAudio(head, vendorPath, withTags ? tags : noTags, whole);
  }
  return hearBytes(new Uint8Array(await readFile(path)), vendorPath, withTags);
}

/** The same for a file that is in memory. */
export async function hearBytes(bytes: Uint8Array, vendorPath: string, withTags: boolean): Promise<Analysis> {
  if (sniffFormat(bytes) === 'midi') return analyseNotes(parseSmf(bytes), vendorPath);
  await loadTransforms();
  const { pcm, tags } = await decodeFile(bytes);
  return analyseAudio(toProjectRate(pcm), vendorPath, withTags ? tags : noTags);
}

/** `context`: what the other files of its folder add. */
export function describe({ evidence: own, measures }: Analysis, context: readonly Evidence[]): Description {
  const evidence = [...own, ...context],
    facts = chooseFacts(evidence, { ...measures, readings: measures.detail?.readings });
  const { kind, tempo, beats, meter, key, instrument } = facts.chosen,
    { families } = instrumentChances(evidence);
  const family = families.find(({ value }) => value === facts.family);
  const musicSeconds = facts.tempoBpm !== null && facts.beats !== null ? (facts.beats * 60) / facts.tempoBpm : null;
  return {
    analyserVersion,
    kind: facts.kind,
    kindConfidence: round(kind?.confidence ?? 0, 4),
    tempoBpm: facts.tempoBpm === null ? null : round(facts.tempoBpm, 4),
    tempoConfidence: facts.tempoBpm === null || !tempo ? null : round(tempo.confidence, 4),
    tempoRivals: facts.tempoBpm === null || !tempo ? [] : (tempo.alternatives as Rival<number>[]),
    beats: facts.beats,
    bars: facts.bars,
    beatsConfidence: beats ? round(beats.confidence, 4) : null,
    meter: facts.meter,
    meterConfidence: meter ? round(meter.confidence, 4) : null,
    key: facts.key,
    keyName: facts.key ? keyName(facts.key) : null,
    keyConfidence: key ? round(key.confidence, 4) : null,
    keyRivals: (key?.alternatives ?? []) as Rival<Key | 'unpitched'>[],
    pitched: facts.pitched,
    family: facts.family,
    familyConfidence: family ? round(family.probability, 4) : null,
    familyRivals: families.filter(({ value }) => value !== facts.family).slice(0, 6),
    instrument: facts.instrument,
    instrumentConfidence: instrument ? round(instrument.confidence, 4) : null,
    tuningCents: round(measures.tuningCents, 2),
    lengthSeconds: round(measures.lengthSeconds, 6),
    loopStartSeconds: facts.tempoBpm === null ? null : round(facts.startSeconds, 6),
    loopEndSeconds: musicSeconds === null ? null : round(facts.startSeconds + musicSeconds, 6),
    soundEndSeconds: round(measures.soundEndSeconds, 4),
    loudnessLufs: measures.loudnessLufs,
    peakDbfs: measures.peakDbfs,
    likeness: measures.likeness && [...measures.likeness],
    print: [...measures.print].map((word) => word.toString(16).padStart(8, '0')).join(''),
    detail: measures.detail,
    evidence,
  };
}
