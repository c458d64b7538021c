import { Op, type Transaction } from 'sequelize';
import { fileTransitions } from '~core/imports/states';
import { sequelize } from '../../db/connection';
import { packHasLoopsSql } from '../../db/queries/packs';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { Pack } from '../../db/models/library';
import { inTransaction } from '../../db/transaction';
import { announce, announceLibrary } from '../../events/announce.server';
import { addJob, addJobInLine } from '../../jobs/queue.server';
import { settleContext } from '../context.server';
import { recordActivity } from '../people.server';
import { lockBatch, moveBatch, waitingOf } from './states.server';

const isWaiting = async (batchId: number, transaction?: Transaction): Promise<boolean> =>
  (await ImportFile.count({ where: waitingOf(batchId), transaction })) > 0;

/** Where no file of a batch waits any more, its loops are seen together, by a job that is there with the end of the last file or not at all. */
export async function settleUnlessWaiting(batchId: number, transaction: Transaction): Promise<void> {
  // Files of a batch end one after the other here, so that the last one sees all others.
  await lockBatch(batchId, transaction);
  if (!(await isWaiting(batchId, transaction))) await addJobInLine('settle-import', { batchId }, `settle-import-${batchId}`, transaction);
}

/**
 * The job: the loops of a batch are seen together, and it is done; of one that was stopped, what had come in is. Done is told when all is known: what
 * is in doubt then stays so. Safe to run twice.
 */
export async function settleImport(batchId: number): Promise<void> {
  const batch = await ImportBatch.findByPk(batchId);
  // What is gone on with comes here again at its end.
  if (!batch || (await isWaiting(batchId))) return;
  if (batch.packId !== null) {
    await settleContext(batch.packId);
    await addJob('find-twins', { packId: batch.packId }, `find-twins-${batch.packId}`);
  }
  await closeImport(batchId);
}

/** Ends a batch in which no file waits; a pack that nothing came into is put away. */
export async function closeImport(batchId: number): Promise<void> {
  const finished = await inTransaction(async (transaction) => {
    const batch = await lockBatch(batchId, transaction);
    if (!batch || (await isWaiting(batchId, transaction))) return null;
    if (!(await moveBatch(batchId, 'finish', { transaction }))) return null;
    const { packId, packName, personId } = batch,
      loops = await ImportFile.count({ where: { batchId, state: fileTransitions.finish.to, loopId: { [Op.ne]: null } }, transaction });
    if (packId !== null && loops === 0 && (await isEmptyPack(packId, transaction)))
      await Pack.update({ archivedAt: new Date() }, { where: { id: packId }, transaction });
    return { packId, packName, personId, loops };
  });
  if (!finished) return;
  const { packId, packName, personId, loops } = finished;
  await recordActivity(personId, 'imported', 'pack', packId, { name: packName, loops });
  await announceLibrary();
  await announce({ kind: 'import', batchId });
}

async function isEmptyPack(packId: number, transaction: Transaction): Promise<boolean> {
  const [[{ has }]] = (await sequelize.query(packHasLoopsSql, { bind: [packId], transaction })) as [{ has: boolean }[], unknown];
  return !has;
}
