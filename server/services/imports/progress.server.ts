import type { BatchState, FileState } from '~core/imports/states';
import { selectRows } from '../../db/connection';

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
  readonly loops: number;
  readonly archived: number;
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
      failed: number;
      duplicate: number;
      aside: number;
      loops: number;
      archived: number;
    }
  >(
    `
    select b.id, b.pack_id as "packId", b.pack_name as "packName", b.vendor, b.state, b.message, p.name::text as person, b.created_at as "createdAt",
      count(f.id) filter (where f.state = 'queued')::int as queued, count(f.id) filter (where f.state = 'working')::int as working, count(f.id) filter (where f.state = 'done' and f.loop_id is not null)::int as done, count(f.id) filter (where f.state = 'failed')::int as failed,
      count(f.id) filter (where f.state = 'duplicate')::int as duplicate, count(f.id) filter (where f.state = 'left-aside')::int as aside, count(f.loop_id) filter (where f.state = 'done')::int as loops, count(l.id) filter (where l.archived_at is not null and f.state = 'done')::int as archived
    from import_batches b join people p on p.id = b.person_id left join import_files f on f.batch_id = b.id left join loops l on l.id = f.loop_id where b.state <> 'receiving' group by b.id, p.name order by b.id desc limit $1`,
    [limit],
  );
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
      failed: row.failed,
      duplicate: row.duplicate,
      'left-aside': row.aside,
    },
    total: row.queued + row.working + row.done + row.failed + row.duplicate + row.aside,
    loops: row.loops,
    archived: row.archived,
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
  return selectRows<FileLine>(
    "select id::text, path, state, message, loop_id as \"loopId\", bytes::float8 as bytes from import_files where batch_id = $1 order by case state when 'failed' then 0 when 'working' then 1 when 'duplicate' then 2 when 'queued' then 3 when 'left-aside' then 4 else 5 end, path limit $2 offset $3",
    [batchId, limit, offset],
  );
}
