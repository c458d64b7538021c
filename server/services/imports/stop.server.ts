import { Op, type Transaction } from 'sequelize';
import { sequelize } from '../../db/connection';
import { packShowsLoopsSql } from '../../db/queries/packs';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { Loop, Pack } from '../../db/models/library';
import { inTransaction } from '../../db/transaction';
import { announce, announceLibrary } from '../../events/announce.server';
import { cancelTasks } from '../../jobs/pool/pool.server';
import { dropUnreferred } from '../../storage/keeping.server';
import { lockLoops } from '../facts.server';
import { recordActivity } from '../people.server';
import type { SignedIn } from '../sessions.server';
import { dropBatch, queueUnpacking } from './receive.server';
import { settleUnlessWaiting } from './settle.server';
import { lockBatch, moveBatch, moveFiles, waitingOf } from './states.server';

/** A batch is its own person's, and the keepers'. */
export const mayStop = async (batchId: number, person: SignedIn): Promise<boolean> =>
  person.role === 'keeper' || (await ImportBatch.count({ where: { id: batchId, personId: person.id } })) > 0;

/** Stops a batch. What has come in already stays; what waits, or is being heard, is left and its bytes are given up. */
export async function cancelBatch(batchId: number, personId: number): Promise<void> {
  const batch = await ImportBatch.findByPk(batchId);
  if (!batch) return;
  if (batch.state === 'receiving') return dropBatch(batchId);
  const hashes = await inTransaction(async (transaction) => {
    if (!(await moveBatch(batchId, 'stop', { message: 'Stopped by hand. What had come in stays.', transaction }))) return null;
    const left = await leaveWaiting(batchId, transaction);
    await settleUnlessWaiting(batchId, transaction);
    return left;
  });
  if (hashes === null) return;
  cancelTasks(importTasks(batchId));
  await dropUnreferred(hashes);
  await recordActivity(personId, 'stopped', 'import', batchId, { pack: batch.packName });
  await announce({ kind: 'import', batchId });
}

/** @returns what the store need not keep for them */
async function leaveWaiting(batchId: number, transaction: Transaction): Promise<(string | null)[]> {
  const files = await ImportFile.findAll({ where: waitingOf(batchId), attributes: ['fileSha256'], transaction });
  await moveFiles({ batchId }, 'leave', { message: 'the import was stopped' }, transaction);
  return files.map((file) => file.fileSha256);
}

/** What was still unpacked while somebody stopped the batch is left like the rest of it. */
export async function leaveLate(batchId: number): Promise<void> {
  if ((await ImportBatch.findByPk(batchId, { attributes: ['state'] }))?.state !== 'cancelled') return;
  await dropUnreferred(await inTransaction((transaction) => leaveWaiting(batchId, transaction)));
  await announce({ kind: 'import', batchId });
}

/** Under this name the threads that work for a batch are ended. */
export const importTasks = (batchId: number): string => `import-${batchId}`;

/** Begins again where a batch failed for want of room: what waits goes on, what is in stays. */
export const retryBatch = (batchId: number): Promise<void> => goOn(batchId, 'retry');

/** Goes on with a batch that was held. */
export const resumeBatch = (batchId: number): Promise<void> => goOn(batchId, 'resume');

async function goOn(batchId: number, event: 'retry' | 'resume'): Promise<void> {
  await inTransaction(async (transaction) => {
    if (await moveBatch(batchId, event, { message: null, transaction })) await queueUnpacking(batchId, transaction);
  });
  await announce({ kind: 'import', batchId });
}

/** Holds a batch: what is being heard or unpacked comes to its end, the rest waits. */
export async function pauseBatch(batchId: number): Promise<void> {
  await moveBatch(batchId, 'pause');
  await announce({ kind: 'import', batchId });
}

/** Archives everything a batch brought in, or brings back what went with it. @returns how many loops that were */
export async function takeBackBatch(batchId: number, back: boolean, personId: number): Promise<number> {
  const loops = await inTransaction(async (transaction) => {
    const batch = await lockBatch(batchId, transaction);
    if (!batch) return 0;
    const rows = await ImportFile.findAll({ where: { batchId, loopId: { [Op.ne]: null }, state: 'done' }, transaction }),
      ids = rows.map((row) => row.loopId as number),
      pack = batch.packId === null ? null : await Pack.findByPk(batch.packId, { lock: transaction.LOCK.UPDATE, transaction }),
      at = new Date(),
      since = batch.takenBackAt ?? pack?.archivedAt ?? null,
      // What had been archived by itself before stays so.
      went = back ? null : since ? { [Op.gte]: since } : { [Op.ne]: null };
    await lockLoops(ids, transaction);
    const [changed] = await Loop.update(
      { archivedAt: back ? at : null },
      { where: { id: { [Op.in]: ids }, archivedAt: went }, transaction },
    );
    await batch.update({ takenBackAt: back ? (batch.takenBackAt ?? at) : null }, { transaction });
    if (pack) {
      const [[{ shows }]] = (await sequelize.query(packShowsLoopsSql, { bind: [pack.id], transaction })) as [{ shows: boolean }[], unknown];
      await pack.update({ archivedAt: shows ? null : (pack.archivedAt ?? at) }, { transaction });
    }
    return changed;
  });
  await recordActivity(personId, back ? 'took back' : 'restored', 'import', batchId, { loops });
  await announceLibrary();
  return loops;
}
