import { Op, type Transaction } from 'sequelize';
import { attributeRow, type FactValues } from '~core/analysis/attributes/registry';
import type { Attribute } from '~core/analysis/facts';
import { Fact, Loop } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { announceLoops } from '../events/announce.server';
import { chooseAgain, chosenIn, factRow, lockLoop, queueBars } from './facts.server';
import { recordActivity } from './people.server';

/** What persons say of loops: it outranks what is heard, and is taken back without what others have said since. */
export type Correction = { readonly [A in Attribute]: { readonly attribute: A; readonly value: FactValues[A] } }[Attribute];

/** What a person's word did to a loop, as facts by number; by this it is taken back. */
export interface Said {
  /** Null where the detectors were let speak again. */
  readonly put: number | null;
  readonly ended: readonly number[];
}

/** Attributes on which a person's word ends with a new one on this: itself, and what it unsays. */
export const endedBy = (attribute: Attribute): readonly Attribute[] => [attribute, ...(attributeRow(attribute).unsays as Attribute[])];

const inForce = { source: 'person', supersededAt: null } as const;

/** Writes a person's word in the place of their last. What follows from it is for `chooseAgain`. */
export async function putWord(
  loopId: number,
  { attribute, value }: Correction,
  personId: number,
  transaction: Transaction,
): Promise<Said & { readonly put: number }> {
  const ended = await dropWords(loopId, endedBy(attribute), transaction),
    { id } = await Fact.create(
      factRow(
        loopId,
        { attribute, source: 'person', candidates: [{ value: value as never, probability: 1 }], reason: 'corrected by hand' },
        personId,
      ),
      { transaction },
    );
  if (ended.length > 0) await Fact.update({ endedBy: id }, { where: { id: [...ended] }, transaction });
  return { put: Number(id), ended };
}

/** Ends what persons said of some attributes. @returns which words, as facts by number */
export async function dropWords(loopId: number, attributes: readonly Attribute[], transaction: Transaction): Promise<number[]> {
  await lockLoop(loopId, transaction);
  const words = await Fact.findAll({ where: { ...inForce, loopId, attribute: [...attributes] }, attributes: ['id'], transaction }),
    ids = words.map(({ id }) => Number(id));
  if (ids.length > 0) await Fact.update({ supersededAt: new Date() }, { where: { id: ids }, transaction });
  return ids;
}

/**
 * Takes one word back, whoever has said what since: what it ended is in force again as theirs who said it, but for what a later word ended too.
 * @returns on which attributes another word, or none, is in force now
 */
export async function takeBackWord(loopId: number, { put, ended }: Said, transaction: Transaction): Promise<Attribute[]> {
  await lockLoop(loopId, transaction);
  const words = await Fact.findAll({ where: { ...inForce, loopId }, transaction }),
    own = words.filter(({ id }) => put !== null && Number(id) === put);
  if (put !== null && own.length === 0) return [];
  const others = new Set(words.filter((word) => !own.includes(word)).flatMap(({ attribute }) => endedBy(attribute))),
    before = (await Fact.findAll({ where: { loopId, source: 'person', id: [...ended] }, transaction })).filter(
      ({ attribute }) => !others.has(attribute),
    );
  await Fact.update({ supersededAt: new Date() }, { where: { id: own.map(({ id }) => id) }, transaction });
  await Fact.update({ supersededAt: null, endedBy: null }, { where: { id: before.map(({ id }) => id) }, transaction });
  return [...own, ...before].map(({ attribute }) => attribute);
}

/** What hangs on a word: the columns, and where it shapes bars, these. */
async function follow(loopId: number, attributes: readonly Attribute[], transaction: Transaction): Promise<void> {
  await chooseAgain(loopId, transaction);
  if (attributes.some((attribute) => attributeRow(attribute).shapesBars)) await queueBars(loopId, transaction);
}

/**
 * A person's word on a fact. It stands until the person's next, whatever later analyses say.
 * @returns its number, by which it is taken back; or what is wrong with it, in words
 */
export async function correctFact(loopId: number, correction: Correction, personId: number): Promise<number | string> {
  if (correction.attribute === 'start') {
    const loop = await Loop.findByPk(loopId, { attributes: ['lengthSeconds'], rejectOnEmpty: true });
    if (correction.value > loop.lengthSeconds - 0.05)
      return `Bar 1 has to begin inside the sound, which is ${loop.lengthSeconds.toFixed(2)} s long.`;
  }
  const wordId = await inTransaction(async (transaction) => {
    const { put } = await putWord(loopId, correction, personId, transaction);
    await follow(loopId, [correction.attribute], transaction);
    return put;
  });
  await recordActivity(personId, 'corrected', 'loop', loopId, correction);
  await announceLoops([loopId]);
  return wordId;
}

export interface FactName {
  readonly loopId: number;
  readonly attribute: Attribute;
}

/** So many are agreed with in one step, and told of together: a page that shows them asks anew once, not for each. */
const agreedAtOnce = 25;

/** Makes facts as they stand a person's word. @returns the numbers of the words; none for what has no value, or has somebody's word already */
export async function agreeWithFacts(facts: readonly FactName[], personId: number): Promise<number[]> {
  const words: number[] = [],
    // In one order, so that of two who agree with the same at once one waits for the other.
    inOrder = [...facts].sort((a, b) => a.loopId - b.loopId);
  for (let from = 0; from < inOrder.length; from += agreedAtOnce) {
    const said = await inTransaction(async (transaction) => {
      const done: { readonly loopId: number; readonly correction: Correction; readonly put: number }[] = [];
      for (const { loopId, attribute } of inOrder.slice(from, from + agreedAtOnce)) {
        const agreed = await agreeWithFact(loopId, attribute, personId, transaction);
        if (agreed) done.push({ loopId, ...agreed });
      }
      return done;
    });
    if (said.length === 0) continue;
    for (const { loopId, correction } of said) await recordActivity(personId, 'corrected', 'loop', loopId, correction);
    await announceLoops([...new Set(said.map(({ loopId }) => loopId))]);
    words.push(...said.map(({ put }) => put));
  }
  return words;
}

async function agreeWithFact(
  loopId: number,
  attribute: Attribute,
  personId: number,
  transaction: Transaction,
): Promise<{ readonly correction: Correction; readonly put: number } | null> {
  const { chosen } = await chosenIn(await lockLoop(loopId, transaction), transaction),
    fact = chosen[attribute];
  if (!fact || (await Fact.count({ where: { ...inForce, loopId, attribute }, transaction })) > 0) return null;
  const correction = { attribute, value: fact.value } as Correction,
    { put } = await putWord(loopId, correction, personId, transaction);
  await chooseAgain(loopId, transaction);
  return { correction, put };
}

/** Takes all that persons said of a fact back, so that the detectors speak again. @returns the words, by which they are brought back */
export async function withdrawCorrection(loopId: number, attribute: Attribute, personId: number): Promise<number[]> {
  const ended = await inTransaction(async (transaction) => {
    const words = await dropWords(loopId, [attribute], transaction);
    await follow(loopId, [attribute], transaction);
    return words;
  });
  await recordActivity(personId, 'withdrew a correction of', 'loop', loopId, { attribute });
  await announceLoops([loopId]);
  return ended;
}

/** Lets words hold again, as theirs who said them, that were withdrawn; one in whose place another stands by now is passed over. */
export async function bringBackWords(wordIds: readonly number[], personId: number): Promise<void> {
  const words = await Fact.findAll({
      where: { id: [...wordIds], source: 'person', endedBy: null, supersededAt: { [Op.ne]: null } },
      order: [['id', 'desc']],
    }),
    // Of two on the same fact the later holds.
    latest = words.filter(
      (word, k) => k === words.findIndex(({ loopId, attribute }) => loopId === word.loopId && attribute === word.attribute),
    ),
    changed: number[] = [];
  for (const { id, loopId, attribute } of latest) {
    const attributes = await inTransaction(async (transaction) => {
      const again = await takeBackWord(loopId, { put: null, ended: [Number(id)] }, transaction);
      if (again.length > 0) await follow(loopId, again, transaction);
      return again;
    });
    if (attributes.length === 0) continue;
    changed.push(loopId);
    await recordActivity(personId, 'corrected', 'loop', loopId, { attribute });
  }
  if (changed.length > 0) await announceLoops([...new Set(changed)]);
}

/** Takes words back by their numbers; one in whose place another stands by now, or that is none, is passed over. */
export async function takeBackWords(wordIds: readonly number[], personId: number): Promise<void> {
  const words = await Fact.findAll({ where: { ...inForce, id: { [Op.in]: [...wordIds] } }, order: [['id', 'desc']] });
  for (let from = 0; from < words.length; from += agreedAtOnce) {
    const changed: number[] = [];
    for (const word of words.slice(from, from + agreedAtOnce)) if (await takeBackOne(word, personId)) changed.push(word.loopId);
    if (changed.length > 0) await announceLoops([...new Set(changed)]);
  }
}

async function takeBackOne({ id, loopId, attribute }: Fact, personId: number): Promise<boolean> {
  const isChanged = await inTransaction(async (transaction) => {
    const ended = await Fact.findAll({ where: { loopId, endedBy: id }, attributes: ['id'], transaction }),
      attributes = await takeBackWord(loopId, { put: Number(id), ended: ended.map((each) => Number(each.id)) }, transaction);
    if (attributes.length > 0) await follow(loopId, attributes, transaction);
    return attributes.length > 0;
  });
  if (isChanged) await recordActivity(personId, 'withdrew a correction of', 'loop', loopId, { attribute });
  return isChanged;
}
