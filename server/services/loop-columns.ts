import { fold } from '~core/names/fold';
import type { Detail } from '~core/analysis/analysis';
import type { PartialAnalysis } from '~core/analysis/analyse-audio';
import { attributeRow, attributes } from '~core/analysis/attributes/registry';
import type { LoopFacts } from '~core/analysis/evidence/choose';
import { nameWords } from '~core/names/parse-name';
import { profileOf } from '~core/search/fit/profile';
import { families, instrumentById } from '~core/theory/instruments';
import { keyName } from '~core/theory/key';
import { projectRateHz } from '~core/units/time';
import type { FactColumns } from '../db/models/fact-columns';

/** Columns of a loop that follow from its facts, as the registry of attributes names them. */
export function factColumns(facts: LoopFacts): FactColumns {
  const columns = attributes.flatMap((name) => {
    const row = attributeRow(name),
      chosen = facts.chosen[name],
      own = row.columns.map((column) => [column.name, column.of((chosen?.value ?? null) as never, facts)] as const);
    return row.isDoubted ? [...own, [`${name}Confidence`, chosen?.confidence ?? null] as const] : own;
  });
  return Object.fromEntries(columns) as unknown as FactColumns;
}

/** Columns of a loop that were measured; only those that `measures` holds. */
export function measureColumns({ measures, detail }: Pick<PartialAnalysis, 'measures' | 'detail'>) {
  const { loudnessLufs, peakDbfs, tuningCents, overview, onsetFrames, faintFrames, chroma, likeness, fingerprint } = measures;
  return defined({
    loudnessLufs,
    peakDbfs,
    tuningCents,
    overview: overview && Buffer.from(overview),
    onsetFrames: onsetFrames && [...onsetFrames],
    faintFrames: faintFrames && [...faintFrames],
    beatFrames:
      detail && detail.beatMap === undefined
        ? undefined
        : (detail?.beatMap?.beatSeconds ?? []).map((seconds) => Math.round(seconds * projectRateHz)),
    chroma: chroma && [...chroma],
    likeness: likeness && Buffer.from(likeness.buffer, likeness.byteOffset, likeness.byteLength),
    fingerprint: fingerprint && fingerprintBytes(fingerprint),
  });
}

/** The profile of a loop, of all that is known of it: not of a part that was heard anew. */
export function profileColumn(detail: Detail | null): { profile: Buffer | null } {
  const profile = profileOf(detail);
  return { profile: profile && Buffer.from(profile) };
}

/** Without what is undefined, which is to stay as it is. */
const defined = <T extends object>(columns: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(columns).filter(([, value]) => value !== undefined)) as never;

/** The words of a fingerprint, little-endian whatever the machine. */
function fingerprintBytes(words: Uint32Array): Buffer | null {
  if (words.length === 0) return null;
  const bytes = Buffer.alloc(words.length * 4);
  words.forEach((word, k) => bytes.writeUInt32LE(word, k * 4));
  return bytes;
}

/** What words are looked for in: everything that a person may call a loop by. */
export function searchText(parts: {
  title: string;
  path: string;
  pack: string;
  vendor: string;
  facts: LoopFacts;
  tags: readonly string[];
}): string {
  const instrument = instrumentById(parts.facts.instrument),
    key = parts.facts.key
      ? keyName(parts.facts.key).replace('♯', 'sharp').replace('♭', 'flat')
      : parts.facts.pitched === false
        ? 'unpitched'
        : parts.facts.pitched
          ? 'no single key'
          : '';
  return fold(
    [
      parts.title,
      nameWords(parts.path),
      parts.pack,
      parts.vendor,
      instrument?.label ?? '',
      parts.facts.family ? families[parts.facts.family].label : '',
      key,
      parts.facts.kind,
      ...parts.tags,
    ].join(' '),
  );
}
