import { Op, type Transaction, type WhereOptions } from 'sequelize';
import { batchTransitions, fileTransitions, waitingFileStates, type BatchEvent, type FileEvent } from '~core/imports/states';
import { sequelize } from '../../db/connection';
import { markTwinsSql } from '../../db/queries/imports';
import { ImportBatch, ImportFile } from '../../db/models/imports';

/*
 * The one place that writes states of imports. Each write asks for the states from which the event leads away in the same statement, so that of
 * two that come at once one finds nothing to do.
 */

const endedNow = (event: BatchEvent): { finishedAt?: Date | null } =>
  ['finish', 'fail', 'stop'].includes(event) ? { finishedAt: new Date() } : event === 'retry' ? { finishedAt: null } : {};

/** @param where further conditions on the batch @returns whether the event happened to it */
export async function moveBatch(
  batchId: number,
  event: BatchEvent,
  {
    message,
    where = {},
    transaction,
  }: { readonly message?: string | null; readonly where?: WhereOptions<ImportBatch>; readonly transaction?: Transaction } = {},
): Promise<boolean> {
  const { from, to } = batchTransitions[event],
    [changed] = await ImportBatch.update(
      { state: to, ...endedNow(event), ...(message === undefined ? {} : { message }) },
      { where: { ...where, id: batchId, state: { [Op.in]: [...from] } }, transaction },
    );
  return changed > 0;
}

/** @returns how many files it happened to */
export async function moveFiles(
  where: WhereOptions<ImportFile>,
  event: FileEvent,
  changes: { readonly message?: string | null; readonly loopId?: number; readonly fileSha256?: null } = {},
  transaction?: Transaction,
): Promise<number> {
  const { from, to } = fileTransitions[event],
    [changed] = await ImportFile.update({ ...changes, state: to }, { where: { ...where, state: { [Op.in]: [...from] } }, transaction });
  return changed;
}

/** Files of a batch on which something is still to be done. */
export const waitingOf = (batchId: number) => ({ batchId, state: { [Op.in]: [...waitingFileStates] } });

/** Of equal sounds in one batch the first is heard; the others say whose twin they are. One pass, however many are alike. */
export async function markTwins(batchId: number, transaction: Transaction): Promise<void> {
  await sequelize.query(markTwinsSql, { bind: [batchId], transaction });
}

/**
 * Of those that change a batch and its files together one waits for the other: what is marked as the twin of a file is not missed when that file
 * fails at the same moment. The batch is locked before any of its files.
 */
export const lockBatch = (batchId: number, transaction: Transaction): Promise<ImportBatch | null> =>
  ImportBatch.findByPk(batchId, { lock: transaction.LOCK.UPDATE, transaction });
