import type { Detail } from '~core/analysis/analysis';
import { profileOf } from '~core/search/fit/profile';
import type { IndexedLoop } from '~core/search/index/indexed-loop';
import { columnFacets, LibraryIndex } from '~core/search/index/library-index';
import { fedSinceSql, feedEndSql, forgetFedSql, indexedByIdSql, indexedPageSql, keepProfileSql } from '../db/queries/library-index';

/** A connection as the feed needs it. */
export interface Reader {
  query(sql: string, bind: readonly unknown[]): Promise<{ rows: readonly unknown[] }>;
}

type RawLoop = Omit<IndexedLoop, 'folder' | 'facets'> & {
  readonly vendorPath: string;
  readonly detail: Detail | null;
  readonly [facet: `f_${string}`]: string | readonly string[] | null;
};

const pageRows = 4000,
  mostFed = 20_000,
  /** A number of the feed that is missing for so long was of something that came to nothing. */
  lateMs = 15 * 60_000,
  /** So many of the last numbers before a reading are read again: what was under way as it began may have been seen too late for it. */
  mostUnderWay = 2000n,
  /** An index that could not read for so long may have missed what was forgotten meanwhile. */
  mostSilentMs = 90 * 60_000;

/** Keeps an index as the library is: read once, then by what changes. */
export class LibraryFeed {
  index = new LibraryIndex();
  private seq = 0n;
  private readonly missing = new Map<bigint, number>();
  private readAtMs = 0;
  private under: Promise<void> | null = null;
  constructor(private readonly reader: Reader) {}

  /** Reads the whole library into a new index. @param onRead is told how many are in */
  async load(onRead: (loops: number) => void = () => {}): Promise<void> {
    const index = new LibraryIndex(),
      [{ seq }] = (await this.reader.query(feedEndSql, [])).rows as { seq: string }[];
    for (let last = 0; ;) {
      const rows = (await this.reader.query(indexedPageSql, [last, pageRows])).rows as RawLoop[];
      if (rows.length === 0) break;
      for (const row of rows) index.put(toIndexed(row));
      await this.keepProfiles(rows);
      last = rows[rows.length - 1].id;
      onRead(index.count);
    }
    this.index = index;
    this.seq = BigInt(seq) > mostUnderWay ? BigInt(seq) - mostUnderWay : 0n;
    this.missing.clear();
    this.readAtMs = Date.now();
  }

  /** Takes in what has changed since; several callers wait for one reading that began after they asked. */
  async catchUp(): Promise<void> {
    // What is under way may have begun before this caller's own change was there.
    await this.under;
    return (this.under ??= this.readChanges().finally(() => (this.under = null)));
  }

  private async readChanges(): Promise<void> {
    if (Date.now() - this.readAtMs > mostSilentMs) return this.load();
    for (;;) {
      const rows = (await this.reader.query(fedSinceSql, [String(this.seq), [...this.missing.keys()].map(String), mostFed])).rows as {
        seq: string;
        loopId: number;
      }[];
      this.readAtMs = Date.now();
      for (const { seq } of rows) this.note(BigInt(seq));
      const ids = [...new Set(rows.map(({ loopId }) => loopId))];
      for (let from = 0; from < ids.length; from += pageRows) await this.readAnew(ids.slice(from, from + pageRows));
      for (const [seq, since] of this.missing) if (Date.now() - since > lateMs) this.missing.delete(seq);
      if (rows.length < mostFed) return;
    }
  }

  private note(seq: bigint): void {
    this.missing.delete(seq);
    if (seq <= this.seq) return;
    for (let skipped = this.seq + 1n; skipped < seq && this.missing.size < 50_000; skipped++) this.missing.set(skipped, Date.now());
    this.seq = seq;
  }

  private async readAnew(ids: readonly number[]): Promise<void> {
    const rows = (await this.reader.query(indexedByIdSql, [ids])).rows as RawLoop[],
      there = new Set(rows.map(({ id }) => id));
    for (const row of rows) this.index.put(toIndexed(row));
    for (const id of ids) if (!there.has(id)) this.index.drop(id);
    await this.keepProfiles(rows);
  }

  /** Profiles that had to be made are kept, so that they are made once. */
  private async keepProfiles(rows: readonly RawLoop[]): Promise<void> {
    const made = rows.flatMap(({ id, detail }) => {
      const profile = profileOf(detail);
      return profile ? [{ id, profile: Buffer.from(profile) }] : [];
    });
    if (made.length > 0) await this.reader.query(keepProfileSql, [made.map(({ id }) => id), made.map(({ profile }) => profile)]);
  }

  /** Forgets what every index has long read. */
  forget = (): Promise<unknown> => this.reader.query(forgetFedSql, []);
}

function toIndexed({ vendorPath, detail, ...row }: RawLoop): IndexedLoop {
  return {
    ...row,
    folder: vendorPath.slice(0, vendorPath.lastIndexOf('/') + 1),
    profile: detail ? profileOf(detail) : row.profile,
    facets: Object.fromEntries(columnFacets.map(({ name }) => [name, row[`f_${name}`]])),
  };
}
