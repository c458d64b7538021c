import type { Analysis, Detail } from '~core/analysis/analysis';
import { chooseFacts } from '~core/analysis/evidence/choose';
import { instrumentChances } from '~core/analysis/evidence/instrument-chances';
import type { KeyValue } from '~core/analysis/attributes/key';
import type { LoopKind } from '~core/analysis/attributes/loop-kinds';
import type { Evidence } from '~core/analysis/facts';
import { analyserVersion } from '~core/analysis/parts';
import { plainId, type Family } from '~core/theory/instruments';
import { keyName, type Key } from '~core/theory/key';

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
  readonly keyRivals: readonly Rival<KeyValue>[];
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
    keyRivals: (key?.alternatives ?? []) as Rival<KeyValue>[],
    pitched: facts.pitched,
    family: facts.family,
    familyConfidence: family ? round(family.probability, 4) : null,
    familyRivals: families.filter(({ value }) => value !== facts.family).slice(0, 6),
    instrument: facts.instrument === null ? null : plainId(facts.instrument),
    instrumentConfidence: instrument ? round(instrument.confidence, 4) : null,
    tuningCents: round(measures.tuningCents, 2),
    lengthSeconds: round(measures.lengthSeconds, 6),
    loopStartSeconds: facts.tempoBpm === null ? null : round(facts.firstBarSeconds, 6),
    loopEndSeconds: musicSeconds === null ? null : round(facts.firstBarSeconds + musicSeconds, 6),
    soundEndSeconds: round(measures.soundEndSeconds, 4),
    loudnessLufs: measures.loudnessLufs,
    peakDbfs: measures.peakDbfs,
    likeness: measures.likeness && [...measures.likeness],
    print: [...measures.fingerprint].map((word) => word.toString(16).padStart(8, '0')).join(''),
    detail: measures.detail,
    evidence,
  };
}
