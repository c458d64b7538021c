import type { Transaction } from 'sequelize';
import type { WholeLoop } from '~contracts/whole-loop';
import { sameSoundBelow, soundDistance } from '~core/analysis/fingerprint/same-sound';
import { attributeRow } from '~core/analysis/attributes/registry';
import type { Attribute } from '~core/analysis/facts';
import { selectRows, sequelize } from '../db/connection';
import { Fact, Loop } from '../db/models/library';
import {
  addTwinsSql,
  asLongSql,
  comparableOfPackSql,
  countTwinsSql,
  decideTwinsSql,
  giveFavouritesSql,
  givePlacesSql,
  giveRatingsSql,
  giveTagsSql,
  lockTwinsSql,
  openTwinsSql,
  takeFavouritesSql,
  takePlacesSql,
  takeRatingsSql,
  takeTagsSql,
} from '../db/queries/twins';
import { inTransaction } from '../db/transaction';
import { announceLibrary } from '../events/announce.server';
import { chooseAgain, lockLoops, queueBars } from './facts.server';
import { recordActivity } from './people.server';
import { findRowsById } from './search.server';
import { putWord, takeBackWord, type Correction, type Said } from './words.server';

/** Words of a fingerprint as they are stored. */
function wordsOf(stored: Buffer): Uint32Array {
  return Uint32Array.from({ length: Math.floor(stored.length / 4) }, (_, k) => stored.readUInt32LE(k * 4));
}

interface Marked {
  readonly id: number;
  readonly lengthSeconds: number;
  readonly fingerprint: Buffer;
  readonly overview: Buffer;
}

const marksOf = ({ lengthSeconds, fingerprint, overview }: Marked) => ({ lengthSeconds, overview, fingerprint: wordsOf(fingerprint) });

/** The job: holds the loops of a pack against all that are as long, by fingerprint and envelope. Safe to run twice. */
export async function findTwins(packId: number): Promise<void> {
  for (const loop of await selectRows<Marked>(comparableOfPackSql, [packId])) {
    const own = marksOf(loop);
    for (const other of await selectRows<Marked>(asLongSql, [loop.id, loop.lengthSeconds])) {
      const distance = soundDistance(own, marksOf(other), sameSoundBelow);
      if (distance !== null && distance < sameSoundBelow) await sequelize.query(addTwinsSql, { bind: [loop.id, other.id, distance] });
    }
  }
}

/** Two loops that sound the same, side by side. */
export interface Twins {
  readonly id: number;
  readonly first: WholeLoop;
  readonly second: WholeLoop;
  /** How far they are from being one recording, see `soundDistance`. */
  readonly differing: number;
}

/** What waits for somebody to look at, the most alike first. */
export async function listTwins(personId: number, limit: number): Promise<Twins[]> {
  const pairs = await selectRows<{ id: number; firstId: number; secondId: number; differing: number }>(openTwinsSql, [limit]),
    rows = new Map(
      (await findRowsById([...new Set(pairs.flatMap(({ firstId, secondId }) => [firstId, secondId]))], personId)).map((row) => [
        row.id,
        row,
      ]),
    );
  return pairs.flatMap(({ id, firstId, secondId, differing }) => {
    const first = rows.get(firstId),
      second = rows.get(secondId);
    return first && second ? [{ id, first, second, differing }] : [];
  });
}

export async function countTwins(): Promise<number> {
  return (await selectRows<{ count: number }>(countTwinsSql))[0].count;
}

interface TwinsRow {
  readonly id: number;
  readonly firstId: number;
  readonly secondId: number;
  readonly state: 'open' | 'apart' | 'merged';
  readonly undo: MergeUndo | null;
}

/** What a merge gave to the loop that was kept. */
interface MergeUndo {
  readonly keptId: number;
  readonly otherId: number;
  readonly tagIds: readonly number[];
  readonly personIds: readonly number[];
  readonly words: readonly Said[];
  /** The three are missing in what was merged before they were given. */
  readonly ratingPersonIds?: readonly number[];
  readonly collectionIds?: readonly number[];
  readonly archivedAt?: string;
}

async function locked(id: number, transaction: Transaction): Promise<TwinsRow | null> {
  const [rows] = await sequelize.query(lockTwinsSql, { bind: [id], transaction });
  return (rows as TwinsRow[])[0] ?? null;
}

const decidedWords = 'This pair was decided already.',
  archivedWords = 'One of the two was archived meanwhile.';

/** They are two, whatever the fingerprint says. @returns what is wrong, in words; null when it is done */
export const keepApart = (id: number, personId: number): Promise<string | null> =>
  inTransaction(async (transaction) => {
    if ((await locked(id, transaction))?.state !== 'open') return decidedWords;
    await sequelize.query(decideTwinsSql, { bind: [id, 'apart', personId, null], transaction });
    return null;
  });

/**
 * Makes one of two: tags, favourites, stars, notes, places in collections and what people said of the other go to the one that is kept, the other
 * is archived. Projects that use it go on sounding. @returns what is wrong, in words; null when it is done
 */
export async function mergeTwins(id: number, keptId: number, personId: number): Promise<string | null> {
  const wrong = await inTransaction(async (transaction) => {
    const row = await locked(id, transaction);
    if (row?.state !== 'open' || (keptId !== row.firstId && keptId !== row.secondId)) return decidedWords;
    const otherId = keptId === row.firstId ? row.secondId : row.firstId;
    // Two merges that meet in one loop would leave none of the three.
    const both = await Loop.findAll({
      where: { id: [keptId, otherId], archivedAt: null },
      attributes: ['id'],
      order: [['id', 'asc']],
      lock: transaction.LOCK.NO_KEY_UPDATE,
      transaction,
    });
    if (both.length < 2) return archivedWords;
    const archivedAt = new Date(),
      given = async <T>(sql: string) => (await sequelize.query(sql, { bind: [keptId, otherId], transaction }))[0] as T[],
      tagIds = (await given<{ tagId: number }>(giveTagsSql)).map((each) => each.tagId),
      personIds = (await given<{ personId: number }>(giveFavouritesSql)).map((each) => each.personId),
      ratingPersonIds = (await given<{ personId: number }>(giveRatingsSql)).map((each) => each.personId),
      collectionIds = (await given<{ collectionId: number }>(givePlacesSql)).map((each) => each.collectionId),
      words = await giveWords(keptId, otherId, personId, transaction),
      undo: MergeUndo = { keptId, otherId, tagIds, personIds, ratingPersonIds, collectionIds, words, archivedAt: archivedAt.toISOString() };
    await Loop.update({ archivedAt }, { where: { id: otherId }, transaction });
    await chooseAgain(keptId, transaction);
    await sequelize.query(decideTwinsSql, { bind: [id, 'merged', personId, JSON.stringify(undo)], transaction });
    return null;
  });
  if (wrong === null) {
    await recordActivity(personId, 'merged two copies of', 'loop', keptId);
    await announceLibrary();
  }
  return wrong;
}

/** What people said of the other and nobody said of the kept one. @returns the words as they were put */
async function giveWords(keptId: number, otherId: number, personId: number, transaction: Transaction): Promise<Said[]> {
  const said = (loopId: number) =>
      Fact.findAll({ where: { loopId, source: 'person', supersededAt: null }, order: [['id', 'asc']], transaction }),
    own = new Set((await said(keptId)).map(({ attribute }) => attribute)),
    missing = (await said(otherId)).filter(({ attribute }) => !own.has(attribute)),
    words: Said[] = [];
  for (const { attribute, value, personId: by } of missing)
    words.push(await putWord(keptId, { attribute, value } as Correction, by ?? personId, transaction));
  if (missing.some(({ attribute }) => attributeRow(attribute).shapesBars)) await queueBars(keptId, transaction);
  return words;
}

/** Opens a decided pair again, and takes back what its merge did. @returns whether there is such a pair */
export async function undoTwins(id: number, personId: number): Promise<boolean> {
  const isThere = await inTransaction(async (transaction) => {
    const row = await locked(id, transaction);
    if (!row || row.state === 'open') return row !== null;
    const { undo } = row;
    if (row.state === 'merged' && undo) {
      await lockLoops([undo.keptId, undo.otherId], transaction);
      // What somebody has archived anew since stays archived.
      const byMerge = undo.archivedAt === undefined ? {} : { archivedAt: new Date(undo.archivedAt) };
      await Loop.update({ archivedAt: null }, { where: { id: undo.otherId, ...byMerge }, transaction });
      for (const [sql, given] of [
        [takeTagsSql, undo.tagIds],
        [takeFavouritesSql, undo.personIds],
        [takeRatingsSql, undo.ratingPersonIds ?? []],
        [takePlacesSql, undo.collectionIds ?? []],
      ] as const)
        await sequelize.query(sql, { bind: [undo.keptId, undo.otherId, given], transaction });
      const shaped: Attribute[] = [];
      for (const word of [...undo.words].reverse()) shaped.push(...(await takeBackWord(undo.keptId, word, transaction)));
      if (shaped.some((attribute) => attributeRow(attribute).shapesBars)) await queueBars(undo.keptId, transaction);
      await chooseAgain(undo.keptId, transaction);
    }
    await sequelize.query(decideTwinsSql, { bind: [id, 'open', personId, null], transaction });
    return true;
  });
  if (isThere) await announceLibrary();
  return isThere;
}
