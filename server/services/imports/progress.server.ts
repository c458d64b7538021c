import type { DuplicateWay } from '~core/imports/options';
import type { BatchState, FileState } from '~core/imports/states';
import { selectRows } from '../../db/connection';
import { batchFilesSql, batchesSql, openBatchesSql, vendorHabitsSql } from '../../db/queries/imports';

export interface BatchProgress {
  readonly id: number;
  readonly packId: number | null;
  readonly packName: string;
  readonly vendor: string;
  readonly state: BatchState;
  readonly message: string | null;
  readonly person: string;
  readonly createdAt: string;
  readonly counts: Readonly<Record<FileState, number>>;
  readonly total: number;
  /** Archives of it are not unpacked to their end yet: there will be more than `total`. */
  readonly isPacked: boolean;
  readonly loops: number;
  readonly archived: number;
  readonly bytes: number;
  /** Of sound that is in the library now. */
  readonly seconds: number;
  /** When the last of its files had come. */
  readonly startedAt: string;
}

/** The latest batches with their counts. */
export async function listBatches(limit = 12): Promise<BatchProgress[]> {
  const rows = await selectRows<
    Record<string, never> & {
      id: number;
      packId: number | null;
      packName: string;
      vendor: string;
      state: BatchState;
      message: string | null;
      person: string;
      createdAt: Date;
      queued: number;
      working: number;
      done: number;
      kept: number;
      failed: number;
      duplicate: number;
      aside: number;
      isPacked: boolean;
      loops: number;
      archived: number;
      bytes: number;
      seconds: number;
      startedAt: Date;
    }
  >(batchesSql, [limit]);
  return rows.map((row) => ({
    id: row.id,
    packId: row.packId,
    packName: row.packName,
    vendor: row.vendor,
    state: row.state,
    message: row.message,
    person: row.person,
    createdAt: row.createdAt.toISOString(),
    counts: {
      queued: row.queued,
      working: row.working,
      done: row.done,
      kept: row.kept,
      failed: row.failed,
      duplicate: row.duplicate,
      'left-aside': row.aside,
    },
    total: row.queued + row.working + row.done + row.kept + row.failed + row.duplicate + row.aside,
    isPacked: row.isPacked,
    loops: row.loops,
    archived: row.archived,
    bytes: row.bytes,
    seconds: row.seconds,
    startedAt: row.startedAt.toISOString(),
  }));
}

export interface FileLine {
  readonly id: string;
  readonly path: string;
  readonly state: FileState;
  readonly message: string | null;
  readonly loopId: number | null;
  readonly bytes: number;
}

/** So many files of a batch are listed at a time. */
export const fileLinesAtOnce = 400;

/** The files of a batch from a place on; those that need a look first. How many there are the batch's own counts tell. */
export function listBatchFiles(batchId: number, offset = 0, limit = fileLinesAtOnce): Promise<FileLine[]> {
  return selectRows<FileLine>(batchFilesSql, [batchId, limit, offset]);
}

/** What was said of a vendor's last import, to begin the next one with. */
export interface VendorHabits {
  readonly vendor: string;
  readonly licence: string;
  readonly tags: readonly string[];
  readonly leaveOut: readonly string[];
  readonly duplicates: DuplicateWay;
}

/** Vendors that came in before, the latest first. */
export const listVendorHabits = (): Promise<VendorHabits[]> => selectRows<VendorHabits>(vendorHabitsSql);

/** An import that was begun and never started: its upload broke off. */
export interface OpenBatch {
  readonly id: number;
  readonly packName: string;
  /** What has arrived. */
  readonly paths: readonly string[];
}

/** What a person has left unfinished. */
export const listOpenBatches = (personId: number): Promise<OpenBatch[]> => selectRows<OpenBatch>(openBatchesSql, [personId]);
