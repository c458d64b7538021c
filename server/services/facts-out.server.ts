import { PassThrough, type Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { MediaFormat } from '~core/formats/sniff';
import { withFacts } from '~core/formats/with-facts';
import type { FactsOut } from '~core/formats/tags/facts-out';
import { extensionOf } from '~core/formats/sniff';
import { titleBy } from '~core/library/change';
import { numberedPath } from '~core/names/numbered-path';
import { titleFromFileName } from '~core/names/parse-name';
import { safePath } from '~core/names/safe-path';
import { attributeRow } from '~core/analysis/attributes/registry';
import { instrumentById } from '~core/theory/instruments';
import { keyCode, keyName, type Mode } from '~core/theory/key';
import { beatsToSeconds } from '~core/units/time';
import { selectRows } from '../db/connection';
import { loopsOutSql } from '../db/queries/facts-out';
import { log } from '../log.server';
import { endZip } from '../storage/end-zip';
import { storage } from '../storage/storage.server';
import { originsOf } from './exchange/search.server';

/** By which names the files go out: as the vendor had them, by the titles here, or by a pattern as `titleBy` takes it. */
export type OutNames = 'vendor' | 'title' | { readonly pattern: string };

interface OutRow {
  readonly id: number;
  readonly title: string;
  readonly vendorPath: string;
  readonly pack: string;
  readonly vendor: string;
  readonly licence: string;
  readonly fileSha: string;
  readonly format: MediaFormat;
  readonly kind: string;
  readonly instrument: string | null;
  readonly tempoBpm: number | null;
  readonly beats: number | null;
  readonly bars: number | null;
  readonly meter: string | null;
  readonly keyTonic: number | null;
  readonly keyMode: Mode | null;
  readonly genres: readonly string[];
  readonly characters: readonly string[];
  readonly setStem: string | null;
  readonly setRole: string | null;
  readonly firstBarSeconds: number;
  readonly lengthSeconds: number;
  readonly loudnessLufs: number | null;
  readonly tags: readonly string[];
  /** Attributes that persons said. */
  readonly words: readonly string[];
}

/** Larger files go out as they are: facts are put into what fits into memory. */
const mostBytes = 200 * 2 ** 20;

/** A row of the manifest, as docs/formats/manifest.schema.json says. */
function manifestRow(row: OutRow, path: string, author: string | null, page: string | null, licence: string) {
  return {
    path,
    title: row.title,
    vendorPath: row.vendorPath,
    pack: row.pack,
    vendor: row.vendor,
    author,
    page,
    licence,
    kind: row.kind,
    instrument: row.instrument,
    tempoBpm: row.tempoBpm,
    bars: row.bars,
    meter: row.meter,
    key: row.keyTonic !== null && row.keyMode !== null ? keyCode({ tonic: row.keyTonic, mode: row.keyMode }) : null,
    genre: row.genres,
    character: row.characters,
    set: row.setStem,
    setRole: row.setRole,
    tags: row.tags,
    firstBarSeconds: row.firstBarSeconds,
    lengthSeconds: row.lengthSeconds,
    loudnessLufs: row.loudnessLufs,
    fileSha256: row.fileSha,
  };
}
type ManifestRow = ReturnType<typeof manifestRow>;

/** A field of a CSV file (RFC 4180). */
function csvField(value: unknown): string {
  const text = value === null || value === undefined ? '' : Array.isArray(value) ? value.join('; ') : String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows as CSV with a head line (RFC 4180). @example csvOf([{ a: 1 }]) // => 'a\r\n1\r\n' */
export function csvOf(rows: readonly Readonly<Record<string, unknown>>[]): string {
  if (rows.length === 0) return '';
  const names = Object.keys(rows[0]);
  return [names.join(','), ...rows.map((row) => names.map((name) => csvField(row[name])).join(','))].map((line) => `${line}\r\n`).join('');
}

function factsOf(row: OutRow, author: string, licence: string): FactsOut {
  const repeats = row.tempoBpm !== null && row.beats !== null && (row.kind === 'loop' || row.kind === 'full-mix'),
    end = repeats ? row.firstBarSeconds + beatsToSeconds(row.beats as number, row.tempoBpm as number) : 0;
  return {
    title: row.title,
    tempoBpm: row.tempoBpm,
    key: row.keyTonic !== null && row.keyMode !== null ? { tonic: row.keyTonic, mode: row.keyMode } : null,
    meter: row.meter,
    genre: row.genres.length ? row.genres.map((each) => attributeRow('genre').inWords([each] as never, 4)).join(', ') : null,
    author,
    confirmed: row.words.filter((each) => each === 'tempo' || each === 'key'),
    comment: [instrumentById(row.instrument)?.label, `from ${row.pack}${row.vendor ? ` by ${row.vendor}` : ''}`, licence]
      .filter(Boolean)
      .join('; '),
    loop:
      repeats && end <= row.lengthSeconds + 0.05
        ? { startSeconds: row.firstBarSeconds, endSeconds: Math.min(end, row.lengthSeconds) }
        : null,
  };
}

/**
 * A zip of loops with what is known of them in the places that their formats have for it, a manifest as JSON and CSV, and the licences. It is
 * made while it is sent: one file at a time is in memory. A loop whose file is missing costs itself, and is named.
 * @returns null when there is none of these loops
 */
export async function zipOfLoops(loopIds: readonly number[], names: OutNames): Promise<Readable | null> {
  const rows = await selectRows<OutRow>(loopsOutSql, [loopIds]);
  if (rows.length === 0) return null;
  const origins = await originsOf(rows.map(({ id }) => id)),
    zip = new ZipFile(),
    taken = new Set<string>(['manifest.json', 'manifest.csv', 'Licences.txt', 'Left out.txt']),
    manifest: ManifestRow[] = [],
    missing: string[] = [];
  for (const [k, row] of rows.entries()) {
    const found = await storage.stat(row.fileSha);
    if (found === null) {
      missing.push(`${row.title}, ${row.pack}`);
      continue;
    }
    const place = k + 1,
      origin = origins.get(row.id),
      author = origin?.author ?? row.vendor,
      licence = origin?.licence || row.licence || 'not stated',
      own =
        names === 'vendor'
          ? row.vendorPath
          : `${nameOut(row, names, place).replaceAll('/', '-')}.${extensionOf(row.vendorPath) || row.format}`,
      path = numberedPath(safePath(`${row.pack.replaceAll('/', '-')}/${own}`) ?? `${row.id}.${row.format}`, taken);
    taken.add(path);
    manifest.push(manifestRow(row, path, origin?.author ?? null, origin?.pageUrl ?? null, licence));
    zip.addReadStreamLazy(path, { compress: false }, (give) => {
      void fileWithFacts(row, found.bytes, factsOf(row, author, licence)).then(
        (stream) => give(null, stream),
        (error: unknown) => give(error, new PassThrough().end()),
      );
    });
  }
  const text = (name: string, body: string) => zip.addBuffer(Buffer.from(body), name);
  text('manifest.json', `${JSON.stringify({ version: 1, loops: manifest }, null, 1)}\n`);
  text('manifest.csv', csvOf(manifest));
  text('Licences.txt', licencesText(manifest));
  if (missing.length > 0) text('Left out.txt', `Their files are missing in the store:\n${missing.map((line) => `  ${line}\n`).join('')}`);
  return endZip(zip);
}

/** A file's name without its ending, by the title here or by a pattern. */
function nameOut(row: OutRow, names: Exclude<OutNames, 'vendor'>, place: number): string {
  if (names === 'title') return row.title;
  const parts = {
    title: row.title,
    file: titleFromFileName(row.vendorPath.split('/').at(-1) ?? '', row.pack),
    pack: row.pack,
    instrument: instrumentById(row.instrument)?.label ?? '',
    tempo: row.tempoBpm === null ? '' : String(Math.round(row.tempoBpm)),
    key: row.keyTonic !== null && row.keyMode !== null ? keyName({ tonic: row.keyTonic, mode: row.keyMode }) : '',
  };
  return titleBy(names.pattern, parts, place) ?? row.title;
}

async function fileWithFacts(row: OutRow, bytes: number, facts: FactsOut): Promise<NodeJS.ReadableStream> {
  if (bytes > mostBytes) return storage.read(row.fileSha);
  const parts: Buffer[] = [];
  for await (const part of storage.read(row.fileSha)) parts.push(part as Buffer);
  const file = Buffer.concat(parts);
  return new PassThrough().end(orAsItIs(file, () => Buffer.from(withFacts(file, row.format, facts))));
}

/** A file that is odd inside, and yet could be heard, goes out as it came. */
function orAsItIs(file: Buffer, changed: () => Buffer): Buffer {
  try {
    return changed();
  } catch (error) {
    log.warn(error, 'facts could not be put into a file that goes out');
    return file;
  }
}

function licencesText(manifest: readonly ManifestRow[]): string {
  const byLicence = new Map<string, ManifestRow[]>();
  for (const row of manifest) byLicence.set(row.licence, [...(byLicence.get(row.licence) ?? []), row]);
  return [...byLicence]
    .map(
      ([licence, rows]) =>
        `${licence}\n${rows.map(({ path, pack, vendor, author, page }) => `  ${path}: ${[author ?? vendor, pack, page].filter(Boolean).join(', ')}`).join('\n')}\n`,
    )
    .join('\n');
}
