import type { Description } from './describe';

type Line = { readonly file: string } & (Description | { readonly error: string });

const percent = (confidence: number | null): string => (confidence === null ? '' : ` (${Math.round(confidence * 100)} %)`);

/** A result in one line for somebody at a terminal. */
export function summaryLine(line: Line): string {
  if ('error' in line) return `${line.file}: ${line.error}`;
  const parts = [
    line.kind,
    line.tempoBpm === null ? null : `${line.tempoBpm.toFixed(1)} bpm${percent(line.tempoConfidence)}`,
    line.bars === null
      ? null
      : `${line.bars} ${line.bars === 1 ? 'bar' : 'bars'} of ${line.meter === 'unknown' ? 'an unknown meter' : line.meter}`,
    line.keyName
      ? `${line.keyName}${percent(line.keyConfidence)}`
      : line.pitched === false
        ? 'unpitched'
        : line.pitched
          ? 'no single key'
          : 'no key',
    `${line.instrument ?? 'unknown'}, ${line.family ?? 'no family'}${percent(line.familyConfidence)}`,
  ];
  return `${line.file}: ${parts.filter((part) => part !== null).join(' · ')}`;
}
