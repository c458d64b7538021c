import { keyValueName, loopKinds, type Attribute, type Candidate, type KeyValue, type LoopKind } from '~core/analysis/facts';
import { instrumentById } from '~core/theory/instruments';
import { keyValueCode } from './format';

export const factLabels: Readonly<Record<Attribute, string>> = {
  kind: 'Kind',
  tempo: 'Tempo',
  beats: 'Length',
  meter: 'Meter',
  start: 'Bar 1',
  key: 'Key',
  instrument: 'Instrument',
};

/** A fact's value in words. */
export function inWords(attribute: Attribute, value: unknown, barBeats: number): string {
  if (attribute === 'tempo')
    return Number(value)
      .toFixed(2)
      .replace(/\.?0+$/, '');
  if (attribute === 'beats') {
    const bars = Number(value) / barBeats;
    return `${Number(value)} beats, ${Number.isInteger(bars) ? bars : bars.toFixed(2)} ${bars === 1 ? 'bar' : 'bars'}`;
  }
  if (attribute === 'start') return Number(value) < 0.0005 ? 'at the very start' : `${Number(value).toFixed(3)} s in`;
  if (attribute === 'key') return keyValueName(value as KeyValue);
  if (attribute === 'instrument') return instrumentById(String(value))?.label ?? String(value);
  if (attribute === 'meter') return value === 'unknown' ? 'unknown, none of 4/4, 3/4, 6/8' : String(value);
  return attribute === 'kind' ? loopKinds[value as LoopKind] : String(value);
}

/** The form in which a value is sent back. */
export const toField = (attribute: Attribute, value: unknown): string =>
  attribute === 'key' ? keyValueCode(value as KeyValue) : String(value);

/** `sure`, `82 %`. */
export function percent(confidence: number): string {
  return confidence > 0.995 ? 'sure' : `${Math.round(confidence * 100)} %`;
}

/** A tempo's rivals, half and double always among them. */
export function withHalfAndDouble(rivals: readonly Candidate[], tempo: number): Candidate[] {
  const near = (a: number, b: number) => Math.abs(a / b - 1) < 0.005;
  const extra = [tempo / 2, tempo * 2]
    .filter((each) => each >= 20 && each <= 400 && !rivals.slice(0, 4).some((rival) => near(Number(rival.value), each)))
    .map((each) => ({ value: each, probability: 0 }));
  return [...rivals.slice(0, 4), ...extra];
}
