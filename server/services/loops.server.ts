import { Op, type Transaction } from 'sequelize';
import type { FactLine, LoopDetail } from '~contracts/loop-detail';
import { chooseFacts } from '~core/analysis/evidence/choose';
import type { Evidence } from '~core/analysis/facts';
import { analyserVersion, partVersions } from '~core/analysis/parts';
import { numberedPath } from '~core/names/numbered-path';
import { titleFromFileName } from '~core/names/parse-name';
import { beatsPerBar } from '~core/units/time';
import { setStem } from '~core/names/set-role';
import { selectRows, sequelize } from '../db/connection';
import {
  lockFileSql,
  tagsOfLoopSql,
  siblingsSql,
  usedInSql,
  factsOfLoopSql,
  findOrMakeSetSql,
  addFavouriteSql,
  addTagSql,
} from '../db/queries/loops';
import { Fact, Favourite, Loop, LoopTag, Pack, Tag } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { announceLibrary, announceLoops } from '../events/announce.server';
import type { AnalyseResult } from '../jobs/pool/protocol';
import { chooseAgain, factRow, lockLoops, measuredOf, toEvidence } from './facts.server';
import { factColumns, measureColumns, profileColumn, searchText } from './loop-columns';
import { originsOf } from './exchange/search.server';
import { findMade } from './making/provenance.server';
import { recordActivity } from './people.server';
import { ratingsOf } from './ratings.server';
import type { SignedIn } from './sessions.server';
import { findRowsById } from './search.server';
import { statedChordsOf } from './stated-chords.server';

export interface NewLoop {
  readonly packId: number;
  readonly vendorPath: string;
  readonly fileSha256: string;
  readonly soundSha256: string;
  readonly personId: number;
  readonly result: Extract<AnalyseResult, { ok: true }>;
  /** Put on it from the start. */
  readonly tags?: readonly string[];
  /** A second one of the same file is wanted. */
  readonly mayBeTwin?: boolean;
  /** What it is called; left out, by its file's name. */
  readonly title?: string;
  /** The set it belongs to; left out, by its path. */
  readonly setName?: string;
  /** Licences of what it was made of; null for what was not made here. */
  readonly madeUnder?: string | null;
  /** What is known of it without hearing it. */
  readonly known?: readonly Evidence[];
  /** What who adds it says of it. */
  readonly said?: readonly Evidence[];
}

/** `twinTitle`: the same file is in the library already, under this title. */
export interface AddedLoop {
  readonly loopId: number;
  readonly twinTitle: string | null;
  readonly twinPackId?: number;
}

/** A pack into which nobody else puts a loop until the transaction ends. */
const lockPack = (packId: number, transaction: Transaction): Promise<Pack> =>
  Pack.findByPk(packId, { transaction, lock: transaction.LOCK.NO_KEY_UPDATE, rejectOnEmpty: true });

/** A path that is free in a pack, and stays so until the transaction ends: the one that is wanted, or with a number behind it. */
export async function freePath(packId: number, wanted: string, transaction: Transaction): Promise<string> {
  await lockPack(packId, transaction);
  if ((await Loop.count({ where: { packId, vendorPath: wanted }, transaction })) === 0) return wanted;
  const loops = await Loop.findAll({ where: { packId }, attributes: ['vendorPath'], raw: true, transaction });
  return numberedPath(wanted, new Set(loops.map(({ vendorPath }) => vendorPath)));
}

/**
 * Adds a loop with its facts; the same file at the same place of the same pack a second time gives the loop that is there. Another file at a place
 * that is taken gets one beside it.
 */
export async function addLoop(
  { packId, vendorPath, fileSha256, soundSha256, personId, result, tags = [], mayBeTwin = false, known = [], said = [], ...words }: NewLoop,
  transaction: Transaction,
): Promise<AddedLoop> {
  const { measures, evidence } = result;
  const facts = chooseFacts([...evidence, ...known, ...said], { ...measures, readings: measures.detail?.readings }),
    stem = words.setName || setStem(vendorPath);
  const pack = await lockPack(packId, transaction),
    there = await Loop.findOne({ where: { packId, vendorPath }, transaction });
  if (there?.fileSha256 === fileSha256) {
    // Brought in anew, what was put away comes back.
    if (there.archivedAt !== null) await there.update({ archivedAt: null }, { transaction });
    return { loopId: there.id, twinTitle: null };
  }
  // Two equal files may be analysed at the same time: one waits here, and then finds the other.
  await sequelize.query(lockFileSql, { bind: [fileSha256], transaction });
  const twin = mayBeTwin ? null : await Loop.findOne({ where: { fileSha256, archivedAt: null }, transaction });
  if (twin) return { loopId: twin.id, twinTitle: twin.title, twinPackId: twin.packId };
  const path = there ? await freePath(packId, vendorPath, transaction) : vendorPath,
    fileName = path.split('/').at(-1) ?? path,
    title = words.title ?? titleFromFileName(fileName, pack.name);
  const set = stem ? await findOrMakeSet(packId, stem, transaction) : null;
  const loop = await Loop.create(
    {
      packId,
      setId: set,
      media: result.media,
      title,
      fileName,
      vendorPath: path,
      fileSha256,
      fileFormat: result.format,
      soundSha256,
      soundFrames: result.soundFrames,
      lengthSeconds: measures.lengthSeconds,
      ...measureColumns({ measures, detail: measures.detail }),
      ...profileColumn(measures.detail),
      detail: measures.detail,
      ...factColumns(facts),
      analyserVersion,
      heardBy: partVersions,
      addedBy: personId,
      madeUnder: words.madeUnder ?? null,
      searchText: searchText({ title, path, pack: pack.name, vendor: pack.vendor, facts, tags }),
    },
    { transaction },
  );
  await Fact.bulkCreate(
    [
      ...[...evidence, ...known].filter((each) => each.candidates.length > 0).map((each) => factRow(loop.id, each, null)),
      ...said.map((each) => factRow(loop.id, each, personId)),
    ],
    { transaction },
  );
  for (const name of tags) {
    const [tag] = await Tag.findOrCreate({ where: { name }, transaction });
    await sequelize.query(addTagSql, { bind: [loop.id, tag.id, personId], transaction });
  }
  return { loopId: loop.id, twinTitle: null };
}

interface RawUse {
  readonly id: number;
  readonly name: string;
  readonly meter: string;
  readonly clips: readonly { readonly startBeat: number; readonly lengthBeats: number }[];
}

/** The bars in which clips lie, counted from 1, in words: `1–4, 9–12`. */
function barsOf(clips: RawUse['clips'], barBeats: number): string {
  const spans: [number, number][] = [];
  for (const { startBeat, lengthBeats } of clips) {
    const first = Math.floor(startBeat / barBeats + 1e-6) + 1,
      last = Math.max(first, Math.ceil((startBeat + lengthBeats) / barBeats - 1e-6)),
      before = spans.at(-1);
    if (before && first <= before[1] + 1) before[1] = Math.max(before[1], last);
    else spans.push([first, last]);
  }
  return spans.map(([first, last]) => (first === last ? String(first) : `${first}–${last}`)).join(', ');
}

async function findOrMakeSet(packId: number, stem: string, transaction: Transaction): Promise<number> {
  const [rows] = await sequelize.query(findOrMakeSetSql, { bind: [packId, stem], transaction });
  return (rows as { id: number }[])[0].id;
}

/** Everything about one loop; null when there is none. */
export async function findLoop(loopId: number, personId: number): Promise<LoopDetail | null> {
  const [row] = await findRowsById([loopId], personId);
  const loop = await Loop.findByPk(loopId);
  if (!row || !loop) return null;
  const facts = await selectRows<Omit<FactLine, 'at'> & { at: Date }>(factsOfLoopSql, [loopId]);
  const [tags, siblings, usedIn, pack, origins, ratings] = await Promise.all([
    selectRows<{ name: string }>(tagsOfLoopSql, [loopId]),
    loop.setId ? selectRows<{ id: number; title: string }>(siblingsSql, [loop.setId, loopId]) : [],
    selectRows<RawUse>(usedInSql, [loopId]),
    Pack.findByPk(loop.packId),
    originsOf([loopId]),
    ratingsOf(loopId, personId),
  ]);
  const { chosen } = chooseFacts(facts.map(toEvidence), measuredOf(loop));
  return {
    row,
    vendorPath: loop.vendorPath,
    fileFormat: loop.fileFormat,
    fileSha: loop.fileSha256,
    tuningCents: loop.tuningCents,
    chroma: loop.chroma,
    analysis: loop.detail,
    firstBarSeconds: loop.firstBarSeconds,
    chosen,
    facts: facts.map((fact) => ({ ...fact, at: fact.at.toISOString() })),
    tags: tags.map((tag) => tag.name),
    siblings,
    usedIn: usedIn.map(({ id, name, meter, clips }) => ({ id, name, bars: barsOf(clips, beatsPerBar(meter)) })),
    ratings,
    licence: origins.get(loopId)?.licence || [pack?.licence, loop.madeUnder].filter(Boolean).join(' · '),
    origin: origins.get(loopId) ?? null,
    statedChords: await statedChordsOf(loopId),
    made: await findMade(loopId),
    archived: loop.archivedAt !== null,
  };
}

/**
 * Calls a loop otherwise; its file keeps its name.
 * @param instead of which title; called otherwise by now, it keeps that
 * @returns what it was called before, or what is wrong in words; null for one that is not there
 */
export async function renameLoop(
  loopId: number,
  title: string,
  personId: number,
  instead: string | null = null,
): Promise<{ readonly before: string } | string | null> {
  const done = await inTransaction(async (transaction) => {
    const loop = await Loop.findByPk(loopId, { transaction, lock: transaction.LOCK.NO_KEY_UPDATE });
    if (!loop) return null;
    const before = loop.title;
    if (instead !== null && instead !== before) return `It is called “${before}” by now, and keeps that.`;
    await loop.update({ title }, { transaction });
    // It is found by its title.
    await chooseAgain(loopId, transaction);
    return { before };
  });
  if (done !== null && typeof done === 'object' && done.before !== title) {
    await recordActivity(personId, 'renamed', 'loop', loopId, { before: done.before, title });
    await announceLoops([loopId]);
  }
  return done;
}

export async function setFavourite(personId: number, loopId: number, wanted: boolean): Promise<void> {
  if (wanted)
    await sequelize.query(addFavouriteSql, {
      bind: [personId, loopId],
    });
  else await Favourite.destroy({ where: { personId, loopId } });
}

/** Whether all of these loops are there, archived or not. */
export const loopsExist = async (ids: readonly number[]): Promise<boolean> =>
  (await Loop.count({ where: { id: { [Op.in]: [...ids] } } })) === new Set(ids).size;

/** What a person brought in is theirs to archive; what others did, a keeper's. */
export const mayArchive = async (ids: readonly number[], person: SignedIn): Promise<boolean> =>
  person.role === 'keeper' || (await Loop.count({ where: { id: { [Op.in]: [...ids] }, addedBy: { [Op.ne]: person.id } } })) === 0;

/** Archives loops, or brings them back. Nothing is deleted: projects that use them go on sounding. */
export async function archiveLoops(ids: readonly number[], archived: boolean, personId: number): Promise<void> {
  await inTransaction(async (transaction) => {
    await lockLoops(ids, transaction);
    await Loop.update({ archivedAt: archived ? new Date() : null }, { where: { id: { [Op.in]: [...ids] } }, transaction });
  });
  if (ids.length === 1) await recordActivity(personId, archived ? 'archived' : 'restored', 'loop', ids[0]);
  else await recordActivity(personId, archived ? 'archived' : 'restored', 'loop', null, { loops: ids.length });
  await announceLibrary();
}

/** Adds a tag to a loop, making the tag when it is new; or takes it away. */
export async function setTag(loopId: number, name: string, wanted: boolean, personId: number): Promise<void> {
  await inTransaction((transaction) => setTagIn(loopId, name, wanted, personId, transaction));
  await announceLoops([loopId]);
}

/**
 * The same within a transaction: the loop is found by its tags when that is kept.
 * @param whose of a tag that is taken away: anybody's, or only this person's own
 * @returns who had put the tag that was taken away; null where none was
 */
export async function setTagIn(
  loopId: number,
  name: string,
  wanted: boolean,
  personId: number,
  transaction: Transaction,
  whose: 'anybody' | 'own' = 'anybody',
): Promise<number | null> {
  const [tag] = await Tag.findOrCreate({ where: { name }, transaction }),
    where = { loopId, tagId: tag.id, ...(whose === 'own' ? { personId } : {}) },
    was = wanted ? null : await LoopTag.findOne({ where, transaction });
  if (wanted) await sequelize.query(addTagSql, { bind: [loopId, tag.id, personId], transaction });
  else await LoopTag.destroy({ where, transaction });
  await chooseAgain(loopId, transaction);
  return was?.personId ?? null;
}
