import type { Transaction } from 'sequelize';
import { attributeRow } from '~core/analysis/attributes/registry';
import type { Attribute } from '~core/analysis/facts';
import type { Change } from '~core/library/change';
import { sequelize } from '../../db/connection';
import { findOrMakeSetSql } from '../../db/queries/loops';
import { Loop, Pack } from '../../db/models/library';
import { collectAsBefore, setCollected, type CollectedPlace } from '../collections.server';
import { chooseAgain, queueBars } from '../facts.server';
import { freePath, setTagIn } from '../loops.server';
import { dropWords, endedBy, putWord, takeBackWord, type Correction, type Said } from '../words.server';
import { effectOf, hasTag, type Changeable } from './effect';

/** What was before a change, as far as it touched it. */
export interface Before {
  /** The word that was put, and those that it ended. */
  readonly said?: Said;
  /** In changes of before words were numbered: what persons said of the attributes named; null: nothing. */
  readonly words?: Readonly<Record<string, { readonly value: unknown } | null>>;
  /** `personId`: who had put it, where it was taken away. */
  readonly tag?: { readonly name: string; readonly was: boolean; readonly personId?: number | null };
  readonly title?: string;
  readonly packId?: number;
  readonly vendorPath?: string;
  readonly setId?: number | null;
  readonly isArchived?: boolean;
  /** Left out in changes of before collections were numbered: the `id`, and the place that it had in there. */
  readonly collection?: { readonly name: string; readonly was: boolean } & Partial<CollectedPlace>;
  /** What was put in their place: only where it is still so, what was before comes back. */
  readonly made?: { readonly title?: string; readonly packId?: number; readonly setId?: number | null; readonly archivedAt?: string };
}

/** Does a change to one loop. @returns what was before; null when it cannot be done to this one */
export async function applyTo(
  loop: Changeable,
  change: Change,
  place: number,
  personId: number,
  transaction: Transaction,
): Promise<Before | null> {
  const { id } = loop;
  switch (change.kind) {
    case 'fact':
    case 'tempo-times': {
      const attribute: Attribute = change.kind === 'fact' ? change.attribute : 'tempo',
        value =
          change.kind === 'fact'
            ? change.value === null
              ? null
              : attributeRow(attribute).fromText(change.value)
            : (loop.tempoBpm ?? 0) * change.factor,
        said =
          value === null
            ? { put: null, ended: await dropWords(id, endedBy(attribute), transaction) }
            : await putWord(id, { attribute, value } as Correction, personId, transaction);
      await chooseAgain(id, transaction);
      if (attributeRow(attribute).shapesBars) await queueBars(id, transaction);
      return { said };
    }
    case 'tag':
      return {
        tag: {
          name: change.name,
          was: hasTag(loop, change.name),
          personId: await setTagIn(id, change.name, change.isWanted, personId, transaction),
        },
      };
    case 'title': {
      const effect = effectOf(loop, change, place);
      if (!effect) return null;
      await Loop.update({ title: effect.after }, { where: { id }, transaction });
      await chooseAgain(id, transaction);
      return { title: loop.title, made: { title: effect.after } };
    }
    case 'pack': {
      const [pack] = await Pack.findOrCreate({
        where: { name: change.name, archivedAt: null },
        defaults: { name: change.name, vendor: '', licence: '', description: '', addedBy: personId },
        transaction,
      });
      if (pack.id === loop.packId) return null;
      const { vendorPath } = await Loop.findByPk(id, { attributes: ['vendorPath'], transaction, rejectOnEmpty: true }),
        path = await freePath(pack.id, vendorPath, transaction);
      await Loop.update({ packId: pack.id, setId: null, vendorPath: path }, { where: { id }, transaction });
      await chooseAgain(id, transaction);
      return { packId: loop.packId, setId: loop.setId, vendorPath, made: { packId: pack.id, setId: null } };
    }
    case 'set': {
      const setId = change.stem === '' ? null : await setOf(loop.packId, change.stem, transaction);
      await Loop.update({ setId }, { where: { id }, transaction });
      return { setId: loop.setId, made: { setId } };
    }
    case 'collection': {
      const { name, isWanted } = change,
        place = await setCollected({ name, personId, loopId: id, isWanted }, transaction);
      return { collection: { name, was: place.position !== null, ...place } };
    }
    case 'archive': {
      const archivedAt = new Date(),
        [count] = await Loop.update({ archivedAt }, { where: { id, archivedAt: null }, transaction });
      return count === 0 ? null : { isArchived: false, made: { archivedAt: archivedAt.toISOString() } };
    }
  }
}

async function setOf(packId: number, stem: string, transaction: Transaction): Promise<number> {
  const [rows] = await sequelize.query(findOrMakeSetSql, { bind: [packId, stem], transaction });
  return (rows as { id: number }[])[0].id;
}

/** Puts a loop back to what it was before a change, but for what somebody has done since. */
export async function bringBack(loopId: number, before: Before, personId: number, transaction: Transaction): Promise<void> {
  const loop = await Loop.findByPk(loopId, { transaction });
  if (!loop) return;
  const { tag, collection } = before;
  // Taken away again is only what the change has put there, and what it took away comes back as theirs who had put it.
  if (tag) await setTagIn(loopId, tag.name, tag.was, (tag.was && tag.personId) || personId, transaction, 'own');
  if (collection?.collectionId !== undefined) await collectAsBefore(loopId, collection as CollectedPlace, transaction);
  else if (collection) await setCollected({ name: collection.name, personId, loopId, isWanted: collection.was }, transaction);
  const { title, packId, setId, vendorPath, made } = before,
    isStill =
      (['title', 'packId', 'setId'] as const).every((name) => made?.[name] === undefined || made[name] === loop[name]) &&
      (made?.archivedAt === undefined || made.archivedAt === loop.archivedAt?.toISOString()),
    // Another may lie where it lay.
    path = isStill && packId !== undefined && vendorPath !== undefined ? await freePath(packId, vendorPath, transaction) : undefined,
    columns = {
      ...(isStill
        ? Object.fromEntries(Object.entries({ title, packId, setId, vendorPath: path }).filter(([, value]) => value !== undefined))
        : {}),
      ...(isStill && before.isArchived !== undefined ? { archivedAt: before.isArchived ? new Date() : null } : {}),
    };
  if (Object.keys(columns).length > 0) await Loop.update(columns, { where: { id: loopId }, transaction });
  const shaped = [
    ...(before.said ? await takeBackWord(loopId, before.said, transaction) : []),
    ...(before.words ? await sayAgain(loopId, before.words, personId, transaction) : []),
  ];
  if (shaped.some((attribute) => attributeRow(attribute).shapesBars)) await queueBars(loopId, transaction);
  await chooseAgain(loopId, transaction);
}

async function sayAgain(
  loopId: number,
  words: NonNullable<Before['words']>,
  personId: number,
  transaction: Transaction,
): Promise<Attribute[]> {
  const attributes = Object.keys(words) as Attribute[];
  await dropWords(loopId, attributes, transaction);
  for (const [attribute, word] of Object.entries(words))
    if (word) await putWord(loopId, { attribute, value: word.value } as Correction, personId, transaction);
  return attributes;
}
