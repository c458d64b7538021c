import { keyName, type Key } from '../theory/key';

export type LoopKind = 'loop' | 'one-shot' | 'phrase' | 'full-mix';
export const loopKinds: Readonly<Record<LoopKind, string>> = {
  loop: 'Loop',
  'one-shot': 'One-shot',
  phrase: 'Phrase',
  'full-mix': 'Full mix',
};

/** `unpitched` and `no-single-key` (tuned, but it turns to other keys, wanders or has no home) are answers; "don't know" is the absence of a fact. */
export type KeyValue = Key | 'unpitched' | 'no-single-key';
export const isKey = (value: KeyValue): value is Key => typeof value === 'object';
const keyWords = { unpitched: 'unpitched', 'no-single-key': 'no single key' } as const;
/** `D minor`, `unpitched`, `no single key`. */
export const keyValueName = (value: KeyValue): string => (isKey(value) ? keyName(value) : keyWords[value]);

export interface FactValues {
  readonly kind: LoopKind;
  readonly tempo: number;
  readonly beats: number;
  /** `4/4`, `3/4`, `6/8`, or another one that somebody says; `unknown`: it is heard to be none of these three. */
  readonly meter: string;
  /** Where bar 1 begins, seconds of the file. */
  readonly start: number;
  readonly key: KeyValue;
  readonly instrument: string;
}
export type Attribute = keyof FactValues;
export const attributes: readonly Attribute[] = ['kind', 'tempo', 'beats', 'meter', 'start', 'key', 'instrument'];

/** Facts by which a loop is found, and which one can judge by ear. */
export const doubtAttributes = ['tempo', 'key', 'instrument', 'kind'] as const satisfies readonly Attribute[];
export type DoubtAttribute = (typeof doubtAttributes)[number];

/** From here on a fact is shown without a mark of doubt. */
export const sureFrom = 0.85;

export type Source = 'person' | 'tag' | 'file-name' | 'folder' | 'length' | 'sound' | 'notes' | 'set' | 'pack';
export const sourceLabels: Readonly<Record<Source, string>> = {
  person: 'a person',
  tag: 'tag inside the file',
  'file-name': 'file name',
  folder: 'folder',
  length: 'length',
  sound: 'sound',
  notes: 'notes',
  set: 'others of its set',
  pack: 'others of its pack',
};

export interface Candidate<V = unknown> {
  readonly value: V;
  /** 0–1; the candidates of one evidence sum to at most 1. */
  readonly probability: number;
}

/** What one source says of one attribute: a distribution, not a value, and why, in words. */
export interface Evidence<A extends Attribute = Attribute> {
  readonly attribute: A;
  readonly source: Source;
  readonly candidates: readonly Candidate<FactValues[A]>[];
  readonly reason: string;
}

export function evidence<A extends Attribute>(
  attribute: A,
  source: Source,
  candidates: readonly Candidate<FactValues[A]>[],
  reason: string,
): Evidence<A> {
  return { attribute, source, candidates, reason };
}

/** Names and tags often hold the whole number next to the tempo: 80 for 80.5. */
const roundsNames: ReadonlySet<Source> = new Set<Source>(['tag', 'file-name', 'folder']);
const isRounded = (said: number, value: number): boolean => Number.isInteger(said) && Math.abs(said - value) <= 0.5 + 1e-9;

/** Whether a witness for `said` speaks for `value`: where they mean the same. */
export function supports<A extends Attribute>(attribute: A, said: FactValues[A], value: FactValues[A], source: Source): boolean {
  return (
    sameValue(attribute, said, value) || (attribute === 'tempo' && roundsNames.has(source) && isRounded(said as number, value as number))
  );
}

/** Two values that mean the same: tempos within 0.4 %, starts within 4 ms, keys of the same tonic and mode. */
export function sameValue<A extends Attribute>(attribute: A, a: FactValues[A], b: FactValues[A]): boolean {
  if (attribute === 'tempo') return Math.abs((a as number) / (b as number) - 1) < 0.004;
  if (attribute === 'start') return Math.abs((a as number) - (b as number)) < 0.004;
  if (attribute === 'key') {
    const x = a as KeyValue,
      y = b as KeyValue;
    return x === y || (typeof x === 'object' && typeof y === 'object' && x.tonic === y.tonic && x.mode === y.mode);
  }
  return a === b;
}
