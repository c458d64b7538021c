import { Op, type Transaction } from 'sequelize';
import { attributeRow } from '~core/analysis/attributes/registry';
import type { Attribute } from '~core/analysis/facts';
import type { Change } from '~core/library/change';
import { sequelize } from '../../db/connection';
import { addTagSql, findOrMakeSetSql } from '../../db/queries/loops';
import { Loop, LoopTag, Pack, Tag } from '../../db/models/library';
import { setCollected } from '../collections.server';
import { chooseAgain, dropWords, endedBy, putWord, queueBars, type Correction } from '../facts.server';
import { effectOf, type Changeable } from './effect';

/** What was before a change, as far as it touched it. */
export interface Before {
  /** What persons said of the attributes named; null: nothing. */
  readonly words?: Readonly<Record<string, { readonly value: unknown } | null>>;
  readonly tag?: { readonly name: string; readonly was: boolean };
  readonly title?: string;
  readonly packId?: number;
  readonly setId?: number | null;
  readonly isArchived?: boolean;
  readonly collection?: { readonly name: string; readonly was: boolean };
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
        ended = endedBy(attribute),
        before = Object.fromEntries(ended.map((each) => [each, loop.words[each] ?? null]));
      if (value === null) await dropWords(id, ended, transaction);
      else await putWord(id, { attribute, value } as Correction, personId, transaction);
      await chooseAgain(id, transaction);
      if (attributeRow(attribute).shapesBars) await queueBars(id);
      return { words: before };
    }
    case 'tag':
      await setTag(id, change.name, change.isWanted, personId, transaction);
      return { tag: { name: change.name, was: loop.tags.includes(change.name) } };
    case 'title': {
      const effect = effectOf(loop, change, place);
      if (!effect) return null;
      await Loop.update({ title: effect.after }, { where: { id }, transaction });
      await chooseAgain(id, transaction);
      return { title: loop.title };
    }
    case 'pack': {
      const [pack] = await Pack.findOrCreate({
        where: { name: change.name, archivedAt: null },
        defaults: { name: change.name, vendor: '', licence: '', description: '', addedBy: personId },
        transaction,
      });
      const { vendorPath } = await Loop.findByPk(id, { attributes: ['vendorPath'], transaction, rejectOnEmpty: true });
      // Two files of one place in a pack cannot be: this one stays where it is.
      if (await Loop.findOne({ where: { packId: pack.id, vendorPath, id: { [Op.ne]: id } }, transaction })) return null;
      await Loop.update({ packId: pack.id, setId: null }, { where: { id }, transaction });
      await chooseAgain(id, transaction);
      return { packId: loop.packId, setId: loop.setId };
    }
    case 'set': {
      const setId = change.stem === '' ? null : await setOf(loop.packId, change.stem, transaction);
      await Loop.update({ setId }, { where: { id }, transaction });
      return { setId: loop.setId };
    }
    case 'collection': {
      const { name, isWanted } = change;
      return { collection: { name, was: await setCollected({ name, personId, loopId: id, isWanted }, transaction) } };
    }
    case 'archive':
      await Loop.update({ archivedAt: new Date() }, { where: { id }, transaction });
      return { isArchived: false };
  }
}

async function setOf(packId: number, stem: string, transaction: Transaction): Promise<number> {
  const [rows] = await sequelize.query(findOrMakeSetSql, { bind: [packId, stem], transaction });
  return (rows as { id: number }[])[0].id;
}

async function setTag(loopId: number, name: string, isWanted: boolean, personId: number, transaction: Transaction): Promise<void> {
  const [tag] = await Tag.findOrCreate({ where: { name }, transaction });
  if (isWanted) await sequelize.query(addTagSql, { bind: [loopId, tag.id, personId], transaction });
  else await LoopTag.destroy({ where: { loopId, tagId: tag.id }, transaction });
  await chooseAgain(loopId, transaction);
}

/** Puts a loop back to what it was before a change. */
export async function bringBack(loopId: number, before: Before, personId: number, transaction: Transaction): Promise<void> {
  if (!(await Loop.findByPk(loopId, { attributes: ['id'], transaction }))) return;
  if (before.tag) await setTag(loopId, before.tag.name, before.tag.was, personId, transaction);
  if (before.collection) await setCollected({ ...before.collection, personId, loopId, isWanted: before.collection.was }, transaction);
  const columns = {
    ...(before.title !== undefined ? { title: before.title } : {}),
    ...(before.packId !== undefined ? { packId: before.packId } : {}),
    ...(before.setId !== undefined ? { setId: before.setId } : {}),
    ...(before.isArchived !== undefined ? { archivedAt: before.isArchived ? new Date() : null } : {}),
  };
  if (Object.keys(columns).length > 0) await Loop.update(columns, { where: { id: loopId }, transaction });
  if (before.words) {
    const attributes = Object.keys(before.words);
    await dropWords(loopId, attributes, transaction);
    for (const [attribute, word] of Object.entries(before.words))
      if (word) await putWord(loopId, { attribute, value: word.value } as Correction, personId, transaction);
    if (attributes.some((each) => attributeRow(each as Attribute).shapesBars)) await queueBars(loopId);
  }
  await chooseAgain(loopId, transaction);
}
