import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { FileStore } from '@tus/file-store';
import { config } from '../../config.server';
import { ImportBatch } from '../../db/models/imports';
import { forgottenMs, receiveFile, type ReceiveResult } from './receive.server';

/** Uploads that are on their way, or broke off: they wait here to go on. */
const folder = join(config.dataDir, 'uploads');

/** As long as the batch that they belong to. */
const keptForMs = forgottenMs;

let opened: FileStore | null = null;
/** The store of the tus protocol. */
export function uploadStore(): FileStore {
  if (!opened) {
    mkdirSync(folder, { recursive: true });
    opened = new FileStore({ directory: folder, expirationPeriodInMilliseconds: keptForMs });
  }
  return opened;
}

/** The names of a batch's uploads begin with it, so that they are found without reading them. */
export const uploadPrefix = (batchId: number): string => `b${batchId}-`;

function uploadIds(prefix: string): string[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder).flatMap((name) => (name.startsWith(prefix) && name.endsWith('.json') ? [name.slice(0, -'.json'.length)] : []));
}

/** Whether a person may add to a batch: it is theirs, and still open. */
export const mayAdd = async (batchId: number, personId: number): Promise<boolean> =>
  (await ImportBatch.count({ where: { id: batchId, personId, state: 'receiving' } })) > 0;

/** Says that a batch is still being received. */
export const touchBatch = async (batchId: number): Promise<void> =>
  void (await ImportBatch.update({ touchedAt: new Date() }, { where: { id: batchId, state: 'receiving' } }));

/** Takes an upload that is complete into its batch; nothing of it stays where it waited. */
export async function settleUpload(id: string, batchId: number, personId: number, path: string): Promise<ReceiveResult> {
  const result = await receiveFile(batchId, personId, path, uploadStore().read(id));
  await uploadStore()
    .remove(id)
    .catch(() => {});
  return result;
}

/** Takes in what is complete and was not settled, since the server was ended just then. */
export async function settleComplete(batchId: number, personId: number): Promise<void> {
  for (const id of uploadIds(uploadPrefix(batchId))) {
    const upload = await uploadStore()
      .getUpload(id)
      .catch(() => null);
    if (upload?.size !== undefined && upload.offset === upload.size) await settleUpload(id, batchId, personId, upload.metadata?.path ?? '');
  }
}

/** Throws away what a batch has on its way. */
export async function dropUploads(batchId: number): Promise<void> {
  for (const id of uploadIds(uploadPrefix(batchId)))
    await uploadStore()
      .remove(id)
      .catch(() => {});
}

/** Throws away what nobody went on with. */
export async function sweepUploads(now = Date.now()): Promise<void> {
  for (const id of uploadIds('b')) {
    const path = join(folder, id);
    if (existsSync(path) && now - statSync(path).mtimeMs > keptForMs)
      await uploadStore()
        .remove(id)
        .catch(() => {});
  }
}
