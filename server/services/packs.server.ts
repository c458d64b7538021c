import { Op } from 'sequelize';
import { selectRows, sequelize } from '../db/connection';
import { archiveLoopsOfPackSql, packNamesSql, packsSql, restoreLoopsOfPackSql } from '../db/queries/packs';
import { ImportBatch } from '../db/models/imports';
import { Pack } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { announceLibrary } from '../events/announce.server';
import type { SignedIn } from './sessions.server';
import { recordActivity } from './people.server';

export interface PackLine {
  readonly id: number;
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
  readonly description: string;
  readonly coverId: number | null;
  readonly addedBy: string;
  readonly addedAt: string;
  readonly loops: number;
  readonly oneShots: number;
  readonly notes: number;
  readonly families: readonly { readonly family: string; readonly count: number }[];
  /** Overviews of a few of its loops, base64, from which the cover is drawn. */ readonly overviews: readonly string[];
}

/** So many packs are shown at a time. */
export const packsAtOnce = 48;

export async function countPacks(archived = false): Promise<number> {
  return Pack.count({ where: { archivedAt: archived ? { [Op.ne]: null } : null } });
}

/** Packs, newest first, `limit` of them. Archived ones apart. What is told of each is read of its own loops only. */
export async function listPacks(archived = false, limit = packsAtOnce): Promise<PackLine[]> {
  const rows = await selectRows<PackLine & { addedAt: Date | string }>(packsSql, [archived, limit]);
  return rows.map((row) => ({ ...row, addedAt: new Date(row.addedAt).toISOString() }));
}

export const packNames = (): Promise<{ id: number; name: string; vendor: string }[]> => selectRows(packNamesSql);

/** A pack's number and name; null when there is none. */
export async function packNamed(id: number): Promise<{ readonly id: number; readonly name: string } | null> {
  const pack = await Pack.findByPk(id, { attributes: ['id', 'name'] });
  return pack && { id: pack.id, name: pack.name };
}

/** A pack is its own person's to archive, and the keepers'. */
export const mayArchivePack = async (id: number, person: SignedIn): Promise<boolean> =>
  person.role === 'keeper' || (await Pack.count({ where: { id, addedBy: person.id } })) > 0;

/** Archives a pack with its loops, or brings it back with those that went with it. */
export async function archivePack(id: number, archived: boolean, personId: number): Promise<void> {
  const isChanged = await inTransaction(async (transaction) => {
    const pack = await Pack.findByPk(id, { lock: transaction.LOCK.UPDATE, transaction });
    if (!pack || (pack.archivedAt !== null) === archived) return false;
    const at = pack.archivedAt ?? new Date();
    await pack.update({ archivedAt: archived ? at : null }, { transaction });
    // What an import took along when it was taken back comes back with the pack: it is taken back no more.
    if (!archived) await ImportBatch.update({ takenBackAt: null }, { where: { packId: id, takenBackAt: { [Op.gte]: at } }, transaction });
    await sequelize.query(archived ? archiveLoopsOfPackSql : restoreLoopsOfPackSql, { bind: [id, at], transaction });
    return true;
  });
  if (!isChanged) return;
  await recordActivity(personId, archived ? 'archived' : 'restored', 'pack', id);
  await announceLibrary();
}
