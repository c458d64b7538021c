import { Op, type Transaction } from 'sequelize';
import { isDocument } from '~core/formats/documents';
import { extensionOf } from '~core/formats/sniff';
import { sequelize } from '../../db/connection';
import { ImportFile, type ImportBatch } from '../../db/models/imports';
import { addJobs } from '../../jobs/queue.server';
import { lockBatch, markTwins } from './states.server';

/** So many of a batch do not wait behind a thousand of another: a few files are soon there, and of a large pack the first can be heard. */
const firstFiles = 40,
  /** The first are handed over after so many, the next when there are as many again and a quarter more: what that costs stays small beside unpacking. */
  firstDue = 25,
  growth = 1.25;

const isSound = (path: string): boolean => extensionOf(path) !== 'zip' && !isDocument(path);

/** Hands the sounds of a batch on to be heard while the rest of it is still being unpacked. */
export class HandOver {
  /** Rows are numbered as they are written: up to this one all have their jobs. */
  private lastId = '0';
  private handedOver = 0;
  private seen = 0;
  private due = firstDue;

  constructor(private readonly batch: ImportBatch) {}

  /** One more file has been unpacked. */
  async next(): Promise<void> {
    if (++this.seen < this.due) return;
    this.due = Math.ceil(this.seen * growth) + firstDue;
    await this.now();
  }

  /** What is there is handed over, unless the batch was stopped. */
  async now(): Promise<void> {
    await sequelize.transaction(async (transaction) => {
      if ((await lockBatch(this.batch.id, transaction))?.state === 'unpacking') await this.rest(transaction);
    });
  }

  /** All sounds that have no job yet get one; of equal ones the first. The batch is locked. */
  async rest(transaction: Transaction): Promise<void> {
    const { id: batchId, duplicates } = this.batch;
    if (duplicates !== 'keep') await markTwins(batchId, transaction);
    const files = await ImportFile.findAll({
        where: { batchId, state: 'queued', id: { [Op.gt]: this.lastId } },
        attributes: ['id', 'path'],
        order: ['id'],
        transaction,
      }),
      sounds = files.filter(({ path }) => isSound(path)),
      first = sounds.slice(0, Math.max(0, firstFiles - this.handedOver));
    for (const [some, priority] of [
      [first, -1],
      [sounds.slice(first.length), 0],
    ] as const)
      await addJobs(
        'analyse-import-file',
        some.map(({ id }) => ({ payload: { fileId: String(id) }, key: `analyse-${id}` })),
        transaction,
        priority,
      );
    this.handedOver += sounds.length;
    this.lastId = String(sounds.at(-1)?.id ?? this.lastId);
  }
}
