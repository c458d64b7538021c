import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import type { Transaction } from 'sequelize';
import { selectRows, sequelize } from '../db/connection';
import { isReferredSql, lockHashSql, referredSql } from '../db/queries/keeping';
import type { StagedFile, StagedName, StoredFile } from './file-storage';
import { storage } from './storage.server';

/*
 * The one owner of what lies in the store: nothing else deletes from it. A file stays as long as a row refers to its hash; who adds and
 * who deletes the same hash wait for each other.
 */

const lockHash = (sha256: string, transaction: Transaction) => sequelize.query(lockHashSql, { bind: [sha256], transaction });

/**
 * Takes a stream to the store and writes the rows that refer to it, both or none.
 * @param record writes the rows; what it throws, or the stream does, leaves nothing behind
 */
export async function keepFile<T>(source: Readable, record: Recorder<T>): Promise<T> {
  return keep(await storage.stage(source), record);
}

/** The same for what another thread has staged. */
export const keepStaged = <T>(staged: StagedName, record: Recorder<T>): Promise<T> => keep(storage.resume(staged), record);

type Recorder<T> = (stored: StoredFile, transaction: Transaction) => Promise<T>;

async function keep<T>({ sha256, bytes, settle, discard }: StagedFile, record: Recorder<T>): Promise<T> {
  try {
    return await sequelize.transaction(async (transaction) => {
      await lockHash(sha256, transaction);
      await settle();
      return record({ sha256, bytes }, transaction);
    });
  } catch (error) {
    await discard();
    await dropUnreferred([sha256]);
    throw error;
  }
}

/** Deletes those files to which nothing refers any more. @returns how many */
export async function dropUnreferred(hashes: Iterable<string | null>): Promise<number> {
  let dropped = 0;
  for (const sha256 of new Set(hashes)) {
    if (sha256 === null) continue;
    await sequelize.transaction(async (transaction) => {
      await lockHash(sha256, transaction);
      const [rows] = await sequelize.query(isReferredSql, { bind: [sha256], transaction });
      if (rows.length > 0 || (await storage.stat(sha256)) === null) return;
      await storage.delete(sha256);
      dropped++;
    });
  }
  return dropped;
}

export interface StoreCheck {
  readonly files: number;
  readonly bytes: number;
  /** Rows refer to them, and they are not there. */
  readonly missing: readonly string[];
  /** They are there, and nothing refers to them. */
  readonly unreferred: readonly string[];
  /** Their contents are not what their name says; looked at only when asked for. */
  readonly damaged: readonly string[];
}

/** Holds the store against the database. */
export async function checkStore({ readContents = false } = {}): Promise<StoreCheck> {
  const there = new Set<string>(),
    damaged: string[] = [];
  let bytes = 0;
  for await (const file of storage.list()) {
    there.add(file.sha256);
    bytes += file.bytes;
    if (readContents && (await hashOf(file.sha256)) !== file.sha256) damaged.push(file.sha256);
  }
  // Read after the files: what came in meanwhile is referred to and not missed.
  const referred = new Set((await selectRows<{ sha256: string }>(referredSql)).map(({ sha256 }) => sha256)),
    missing: string[] = [];
  for (const sha256 of referred) if (!there.has(sha256) && (await storage.stat(sha256)) === null) missing.push(sha256);
  return { files: there.size, bytes, missing, unreferred: [...there].filter((sha256) => !referred.has(sha256)), damaged };
}

async function hashOf(sha256: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of storage.read(sha256)) hash.update(part as Buffer);
  return hash.digest('hex');
}

/** Throws away what killed processes left: half-received files, and whole ones that no row ever came to refer to. */
export async function sweepStore(before: Date): Promise<number> {
  await storage.sweepStaged(before);
  const old = new Set<string>();
  for await (const { sha256, changedAt } of storage.list()) if (changedAt < before) old.add(sha256);
  const { unreferred } = await checkStore();
  return dropUnreferred(unreferred.filter((sha256) => old.has(sha256)));
}
