import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { Op } from 'sequelize';
import { safePath } from '~core/names/safe-path';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';
import { selectRows, sequelize } from '../db/connection';
import { Loop, Pack } from '../db/models/library';
import { ImportBatch, ImportFile, type BatchState, type FileState } from '../db/models/imports';
import { announce } from '../http/events.server';
import { addJob, addJobs } from '../jobs/queue.server';
import { storage } from '../storage/storage.server';
import { settleContext } from './context.server';
import { analyseInPool } from '../jobs/pool/pool.server';
import { addLoop } from './loops.server';
import { recordActivity } from './people.server';
import { readZip, ZipError } from './unpack.server';

export interface BatchDraft {
  readonly packName: string;
  readonly vendor: string;
  readonly licence: string;
  readonly description: string;
}

/** Opens a batch that receives files. It leaves no trace unless it is started. */
export async function openBatch(draft: BatchDraft, personId: number): Promise<number> {
  return (await ImportBatch.create({ ...draft, personId, state: 'receiving' })).id;
}

/** Adds a file's row to a batch, or changes the one that is there. */
async function recordFile(file: {
  batchId: number;
  path: string;
  bytes: number;
  state: FileState;
  fileSha256?: string | null;
  message?: string | null;
}): Promise<void> {
  await sequelize.query(
    'insert into import_files (batch_id, path, bytes, file_sha256, state, message) values ($1, $2, $3, $4, $5, $6) on conflict (batch_id, path) do update set bytes = excluded.bytes, file_sha256 = excluded.file_sha256, state = excluded.state, message = excluded.message',
    { bind: [file.batchId, file.path, file.bytes, file.fileSha256 ?? null, file.state, file.message ?? null] },
  );
}

export type ReceiveResult = { readonly ok: true } | { readonly ok: false; readonly message: string };

/** Takes one file of a batch from a stream to the store. A stream that breaks off leaves nothing. */
export async function receiveFile(batchId: number, personId: number, rawPath: string, body: Readable): Promise<ReceiveResult> {
  const batch = await ImportBatch.findOne({ where: { id: batchId, personId, state: 'receiving' } });
  const path = safePath(rawPath);
  if (!batch || path === null) {
    body.resume();
    return { ok: false, message: batch ? 'The file has no usable name.' : 'This import takes no more files.' };
  }
  const { sha256, bytes } = await storage.put(body);
  const ending = extensionOf(path);
  const usable = ending === 'zip' || ending in formatsByExtension;
  await recordFile({
    batchId,
    path,
    bytes,
    fileSha256: usable ? sha256 : null,
    state: usable ? 'queued' : 'left-aside',
    message: usable ? null : 'not a sound, MIDI or zip file',
  });
  if (!usable) await storage.delete(sha256);
  return { ok: true };
}

/** All files are there: the work begins. */
export async function startBatch(batchId: number, personId: number): Promise<void> {
  const [changed] = await ImportBatch.update({ state: 'queued' }, { where: { id: batchId, personId, state: 'receiving' } });
  if (changed) await addJob('unpack-import', { batchId }, `unpack-${batchId}`);
  await announce({ kind: 'import', id: batchId });
}

/** Throws a batch away that was never started, with what it had received. */
export async function dropBatch(batchId: number): Promise<void> {
  const batch = await ImportBatch.findOne({ where: { id: batchId, state: 'receiving' } });
  if (!batch) return;
  const files = await ImportFile.findAll({ where: { batchId } });
  await batch.destroy();
  for (const file of files) if (file.fileSha256) await deleteUnused(file.fileSha256);
}

/** Deletes a stored file that no loop, import or export refers to. */
async function deleteUnused(sha256: string): Promise<void> {
  const [{ used }] = await selectRows<{ used: boolean }>(
    "select exists (select 1 from loops where file_sha256 = $1 or sound_sha256 = $1) or exists (select 1 from import_files where file_sha256 = $1 and state in ('queued', 'working')) or exists (select 1 from exports where file_sha256 = $1) as used",
    [sha256],
  );
  if (!used) await storage.delete(sha256);
}

/** Drops batches that have been receiving for an hour: their page was closed in the middle. */
export async function dropForgottenBatches(): Promise<void> {
  const old = await ImportBatch.findAll({ where: { state: 'receiving', createdAt: { [Op.lt]: new Date(Date.now() - 3_600_000) } } });
  for (const batch of old) await dropBatch(batch.id);
}

/** Stops a batch. What has come in already stays; what waits is left. */
export async function cancelBatch(batchId: number, personId: number): Promise<void> {
  const batch = await ImportBatch.findByPk(batchId);
  if (!batch) return;
  if (batch.state === 'receiving') return dropBatch(batchId);
  if (batch.state === 'done' || batch.state === 'failed') return;
  await batch.update({ state: 'cancelled', finishedAt: new Date(), message: 'Stopped by hand. What had come in stays.' });
  await ImportFile.update(
    { state: 'left-aside', message: 'the import was stopped' },
    { where: { batchId, state: { [Op.in]: ['queued', 'working'] } } },
  );
  await recordActivity(personId, 'stopped', 'import', batchId, { pack: batch.packName });
  await announce({ kind: 'import', id: batchId });
}

/** Archives everything a batch brought in, or brings it back. */
export async function takeBackBatch(batchId: number, back: boolean, personId: number): Promise<number> {
  const rows = await ImportFile.findAll({ where: { batchId, loopId: { [Op.ne]: null }, state: 'done' } });
  const ids = rows.map((row) => row.loopId as number);
  await Loop.update({ archivedAt: back ? new Date() : null }, { where: { id: { [Op.in]: ids } } });
  const batch = await ImportBatch.findByPk(batchId);
  if (batch?.packId) {
    const left = await Loop.count({ where: { packId: batch.packId, archivedAt: null } });
    await Pack.update({ archivedAt: left === 0 ? new Date() : null }, { where: { id: batch.packId } });
  }
  await recordActivity(personId, back ? 'took back' : 'restored', 'import', batchId, { loops: ids.length });
  await announce({ kind: 'library', id: 0 });
  return ids.length;
}

const cancelled = async (batchId: number): Promise<boolean> =>
  (await ImportBatch.findByPk(batchId, { attributes: ['state'] }))?.state === 'cancelled';

/** The job that turns a batch into a pack and single files. Safe to run twice: rows are keyed by (batch, path). */
export async function unpackBatch(batchId: number): Promise<void> {
  const batch = await ImportBatch.findByPk(batchId);
  if (!batch || !['queued', 'unpacking'].includes(batch.state)) return;
  await batch.update({ state: 'unpacking' });
  const packId =
    batch.packId ??
    (
      await Pack.create({
        name: batch.packName,
        vendor: batch.vendor,
        licence: batch.licence,
        description: batch.description,
        addedBy: batch.personId,
      })
    ).id;
  await batch.update({ packId });
  const zips = await ImportFile.findAll({ where: { batchId, path: { [Op.iLike]: '%.zip' }, state: { [Op.in]: ['queued', 'working'] } } });
  for (const zip of zips) {
    if (await cancelled(batchId)) return;
    await unpackZip(batch, zip, zips.length > 1);
  }
  if (await cancelled(batchId)) return;
  await markTwins(batchId);
  await batch.update({ state: 'analysing' });
  const files = await ImportFile.findAll({ where: { batchId, state: { [Op.in]: ['queued', 'working'] } }, attributes: ['id'] });
  await addJobs(
    'analyse-import-file',
    files.map(({ id }) => ({ payload: { fileId: String(id) }, key: `analyse-${id}` })),
  );
  await announce({ kind: 'import', id: batchId });
  if (files.length === 0) await finishIfDone(batchId);
}

/** Of equal files in one batch the first is analysed; the others say whose twin they are. */
async function markTwins(batchId: number): Promise<void> {
  await sequelize.query(
    `update import_files f set state = 'duplicate', message = 'the same file as “' || first.path || '”' from import_files first
      where f.batch_id = $1 and first.batch_id = $1 and f.state = 'queued' and f.file_sha256 = first.file_sha256 and first.id < f.id
      and not exists (select 1 from import_files earlier where earlier.batch_id = $1 and earlier.file_sha256 = f.file_sha256 and earlier.id < first.id)`,
    { bind: [batchId] },
  );
}

async function unpackZip(batch: ImportBatch, zip: ImportFile, several: boolean): Promise<void> {
  const sha256 = zip.fileSha256 as string,
    prefix = several ? `${zip.path.replace(/\.zip$/i, '')}/` : '';
  await zip.update({ state: 'working' });
  let count = 0;
  try {
    for await (const item of readZip(storage.path(sha256))) {
      if (count % 50 === 0 && (await cancelled(batch.id))) return;
      const path = prefix + item.path;
      if (item.kind === 'text') await readPackText(batch, item.path, await item.open());
      else if (item.kind !== 'sound')
        await recordFile({ batchId: batch.id, path, bytes: item.bytes, state: item.kind, message: item.message });
      else await unpackSound(batch.id, path, item.bytes, item.open);
      if (++count % 25 === 0) await announce({ kind: 'import', id: batch.id });
    }
    await zip.update({ state: 'done', message: `unpacked, ${count} files` });
  } catch (error) {
    if (!(error instanceof ZipError)) throw error;
    await zip.update({ state: 'failed', message: error.message });
  }
  await zip.update({ fileSha256: null });
  await deleteUnused(sha256);
}

async function unpackSound(batchId: number, path: string, bytes: number, open: () => Promise<Readable>): Promise<void> {
  const known = await ImportFile.findOne({ where: { batchId, path } });
  if (known && known.state !== 'queued' && known.state !== 'working') return;
  try {
    const stored = await storage.put(await open());
    await recordFile({ batchId, path, bytes: stored.bytes, fileSha256: stored.sha256, state: 'queued' });
  } catch {
    await recordFile({ batchId, path, bytes, state: 'failed', message: 'The file is damaged inside the archive.' });
  }
}

/** A licence text that comes with a pack is kept where the form left the licence empty. */
async function readPackText(batch: ImportBatch, path: string, stream: Readable): Promise<void> {
  let text = '';
  for await (const chunk of stream) text += String(chunk);
  const pack = await Pack.findByPk(batch.packId as number);
  if (!pack) return;
  if (/licen[cs]e/i.test(path) && pack.licence === '') await pack.update({ licence: text.trim().split('\n')[0].slice(0, 300) });
  else if (/read ?me|about|cover/i.test(path) && pack.description === '') await pack.update({ description: text.trim().slice(0, 2000) });
}

/** The job for one file: decode, analyse, add. A broken file becomes a row that says why; the rest goes on. */
export async function analyseImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (!file || !file.fileSha256 || (file.state !== 'queued' && file.state !== 'working')) return;
  const batch = await ImportBatch.findByPk(file.batchId, { rejectOnEmpty: true });
  if (batch.state === 'cancelled') return;
  await file.update({ state: 'working' });
  const twin = await Loop.findOne({ where: { fileSha256: file.fileSha256, archivedAt: null } });
  if (twin && !(twin.packId === batch.packId && twin.vendorPath === file.path)) {
    await file.update({ state: 'duplicate', loopId: twin.id, message: `the same file as “${twin.title}”` });
  } else {
    const result = await analyseInPool({ filePath: storage.path(file.fileSha256), vendorPath: file.path });
    if (!result.ok) {
      await file.update({ state: 'failed', message: result.message });
      await deleteUnused(file.fileSha256);
    } else {
      const soundSha256 = result.sound ? (await putSound(result.sound)).sha256 : file.fileSha256;
      const { loopId, twinTitle } = await addLoop({
        packId: batch.packId as number,
        vendorPath: file.path,
        fileSha256: file.fileSha256,
        soundSha256,
        personId: batch.personId,
        result,
      });
      await file.update(
        twinTitle === null ? { state: 'done', loopId } : { state: 'duplicate', loopId, message: `the same file as “${twinTitle}”` },
      );
    }
  }
  await finishIfDone(file.batchId);
  await announce({ kind: 'import', id: file.batchId });
}

/** Stores a decoded sound; the file that a long one came in is taken away. */
async function putSound(sound: Uint8Array | string) {
  if (typeof sound !== 'string') return storage.put(Readable.from([Buffer.from(sound.buffer, sound.byteOffset, sound.byteLength)]));
  try {
    return await storage.put(createReadStream(sound));
  } finally {
    await rm(sound, { force: true });
  }
}

async function finishIfDone(batchId: number): Promise<void> {
  // One statement, so that of two files that end together exactly one closes the batch.
  const [rows] = await sequelize.query(
    "update import_batches b set state = 'done', finished_at = now() where id = $1 and state = 'analysing' and not exists (select 1 from import_files f where f.batch_id = b.id and f.state in ('queued', 'working')) returning person_id, pack_id, pack_name",
    { bind: [batchId] },
  );
  const [closed] = rows as { person_id: number; pack_id: number; pack_name: string }[];
  if (!closed) return;
  const loops = await ImportFile.count({ where: { batchId, state: 'done', loopId: { [Op.ne]: null } } });
  if (loops === 0 && (await Loop.count({ where: { packId: closed.pack_id } })) === 0)
    await Pack.update({ archivedAt: new Date() }, { where: { id: closed.pack_id } });
  await settleContext(closed.pack_id);
  await recordActivity(closed.person_id, 'imported', 'pack', closed.pack_id, { name: closed.pack_name, loops });
  await announce({ kind: 'library', id: 0 });
}

/** A file that could not be read after all attempts of its job. */
export async function failImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (!file || !['queued', 'working'].includes(file.state)) return;
  await file.update({ state: 'failed', message: 'The file could not be read. It may be too large or damaged in an unusual way.' });
  await finishIfDone(file.batchId);
  await announce({ kind: 'import', id: file.batchId });
}

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

/** The files of a batch; those that need a look first. */
export function listBatchFiles(batchId: number, limit = 400): Promise<FileLine[]> {
  return selectRows<FileLine>(
    "select id::text, path, state, message, loop_id as \"loopId\", bytes::float8 as bytes from import_files where batch_id = $1 order by case state when 'failed' then 0 when 'working' then 1 when 'duplicate' then 2 when 'queued' then 3 when 'left-aside' then 4 else 5 end, path limit $2",
    [batchId, limit],
  );
}
