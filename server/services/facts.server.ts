import { Op, type Transaction, type WhereOptions } from 'sequelize';
import type { PartialAnalysis } from '~core/analysis/analyse-audio';
import type { Detail } from '~core/analysis/analysis';
import { chooseFacts, type LoopFacts } from '~core/analysis/evidence/choose';
import { isReadByPattern } from '~core/analysis/evidence/from-names';
import { attributeRow, type FactValues } from '~core/analysis/attributes/registry';
import { sameValue, type Attribute, type Candidate, type Evidence } from '~core/analysis/facts';
import { analyserVersion, outdatedParts, partVersions, type Part } from '~core/analysis/parts';
import { isSaidBy } from '~core/analysis/said-by';
import { sequelize } from '../db/connection';
import { tagNamesSql } from '../db/queries/facts';
import { Fact, Loop, Pack } from '../db/models/library';
import { announceLoops } from '../events/announce.server';
import { addJob } from '../jobs/queue.server';
import { factColumns, measureColumns, profileColumn, searchText } from './loop-columns';
import { recordActivity } from './people.server';

/** An evidence as a row: the first candidate is the value, the rest are its alternatives. */
export function factRow(loopId: number, { attribute, source, candidates, reason }: Evidence, personId: number | null) {
  const [first, ...rest] = candidates;
  return {
    loopId,
    attribute,
    value: first.value,
    confidence: Math.min(1, first.probability),
    source,
    alternatives: rest,
    reason,
    analyserVersion,
    personId,
  };
}

export const toEvidence = (fact: Pick<Fact, 'attribute' | 'value' | 'confidence' | 'source' | 'alternatives' | 'reason'>): Evidence => ({
  attribute: fact.attribute,
  source: fact.source,
  candidates: [{ value: fact.value, probability: fact.confidence }, ...fact.alternatives] as Candidate<never>[],
  reason: fact.reason,
});

export const measuredOf = ({ firstBarSeconds, lengthSeconds, detail }: Pick<Loop, 'firstBarSeconds' | 'lengthSeconds' | 'detail'>) => ({
  // The column follows a person's word; what was heard is in the readings.
  firstBarSeconds: detail?.readings[0]?.startSeconds ?? firstBarSeconds,
  lengthSeconds,
  readings: detail?.readings,
});

/** Chooses a loop's facts anew from all that is said of it, and brings its columns up to date. */
export async function chooseAgain(loopId: number, transaction: Transaction): Promise<LoopFacts> {
  const loop = await Loop.findByPk(loopId, { transaction, rejectOnEmpty: true });
  const facts = await Fact.findAll({ where: { loopId, supersededAt: null }, order: [['id', 'asc']], transaction });
  const chosen = chooseFacts(facts.map(toEvidence), measuredOf(loop));
  const pack = await Pack.findByPk(loop.packId, { transaction, rejectOnEmpty: true });
  // Within the same transaction: a tag may just have been put there.
  const [tags] = (await sequelize.query(tagNamesSql, { bind: [loopId], transaction })) as [{ name: string }[], unknown];
  await loop.update(
    {
      ...factColumns(chosen),
      searchText: searchText({
        title: loop.title,
        path: loop.vendorPath,
        pack: pack.name,
        vendor: pack.vendor,
        facts: chosen,
        tags: tags.map((tag) => tag.name),
      }),
    },
    { transaction },
  );
  return chosen;
}

/**
 * Puts what some parts say anew in the place of what they said before. Their old facts are superseded, never overwritten; what other parts,
 * persons, set and pack said stays in force.
 */
export async function renewParts(
  loopId: number,
  renewed: ReadonlySet<Part>,
  { evidence, measures, detail }: PartialAnalysis,
): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    const loop = await Loop.findByPk(loopId, { transaction, lock: true, rejectOnEmpty: true }),
      inForce = await Fact.findAll({ where: { loopId, supersededAt: null }, transaction }),
      old = inForce.filter((fact) => isSaidBy(renewed, fact));
    await Fact.update({ supersededAt: new Date() }, { where: { id: { [Op.in]: old.map(({ id }) => id) } }, transaction });
    await Fact.bulkCreate(
      evidence.filter((each) => each.candidates.length > 0).map((each) => factRow(loopId, each, null)),
      { transaction },
    );
    const whole = detail && ({ ...loop.detail, ...detail } as Detail);
    await loop.update(
      {
        ...measureColumns({ measures, detail }),
        ...(whole ? profileColumn(whole) : {}),
        detail: whole,
        heardBy: { ...loop.heardBy, ...Object.fromEntries([...renewed].map((part) => [part, partVersions[part]])) },
      },
      { transaction },
    );
    if (outdatedParts(loop.heardBy).size === 0) await loop.update({ analyserVersion }, { transaction });
    await chooseAgain(loopId, transaction);
  });
}

/** The evidence in force of several loops. */
export async function activeEvidence(loopIds: readonly number[]): Promise<Map<number, Evidence[]>> {
  const facts = await Fact.findAll({ where: { loopId: { [Op.in]: [...loopIds] }, supersededAt: null }, order: [['id', 'asc']] }),
    found = new Map<number, Evidence[]>();
  for (const fact of facts) found.set(fact.loopId, [...(found.get(fact.loopId) ?? []), toEvidence(fact)]);
  return found;
}

/** The facts of several loops with their confidence and rivals. */
export async function chosenFactsOf(loopIds: readonly number[]): Promise<Map<number, LoopFacts['chosen']>> {
  const loops = await Loop.findAll({
      where: { id: { [Op.in]: [...loopIds] } },
      attributes: ['id', 'firstBarSeconds', 'lengthSeconds', 'detail'],
    }),
    evidence = await activeEvidence(loopIds);
  return new Map(loops.map((loop) => [loop.id, chooseFacts(evidence.get(loop.id) ?? [], measuredOf(loop)).chosen]));
}

const ofName = { source: 'file-name', attribute: { [Op.in]: ['tempo', 'key'] } } satisfies WhereOptions<Fact>;

/** Puts what a loop's name says of tempo and key in the place of what it said before. */
export const replaceNamed = (loopId: number, evidence: readonly Evidence[]): Promise<void> =>
  replaceSaid(loopId, ofName, async () => evidence);

/**
 * Reads a loop's name by itself again: what was said of it when it was heard is in force once more.
 * @param alone what it says by itself, for attributes of which nothing was kept
 */
export const readNameAlone = (loopId: number, alone: readonly Evidence[]): Promise<void> =>
  replaceSaid(loopId, ofName, async (transaction) => {
    const before = (await Fact.findAll({ where: { loopId, ...ofName }, order: [['id', 'desc']], transaction })).filter(
        (fact) => !isReadByPattern(fact),
      ),
      kept = alone.map(({ attribute }) => before.find((fact) => fact.attribute === attribute));
    await Fact.update({ supersededAt: null }, { where: { id: { [Op.in]: kept.flatMap((fact) => fact?.id ?? []) } }, transaction });
    return alone.filter((_, k) => !kept[k]);
  });

/** Puts what a loop's pack and set say of it in the place of what they said before. */
export const replaceContext = (loopId: number, evidence: readonly Evidence[]): Promise<void> =>
  replaceSaid(loopId, { source: { [Op.in]: ['set', 'pack'] } }, async () => evidence);

/** Puts evidence in the place of some facts that are in force. Of two at once one waits for the other. */
async function replaceSaid(
  loopId: number,
  which: WhereOptions<Fact>,
  evidence: (transaction: Transaction) => Promise<readonly Evidence[]>,
): Promise<void> {
  const turned = await sequelize.transaction(async (transaction) => {
    const { tempoBpm: before } = await Loop.findByPk(loopId, {
      attributes: ['tempoBpm'],
      transaction,
      lock: true,
      rejectOnEmpty: true,
    });
    await Fact.update({ supersededAt: new Date() }, { where: { ...which, loopId, supersededAt: null }, transaction });
    await Fact.bulkCreate(
      (await evidence(transaction)).map((each) => factRow(loopId, each, null)),
      { transaction },
    );
    const { tempoBpm: now } = await chooseAgain(loopId, transaction);
    return before !== null && now !== null && !sameValue('tempo', before, now);
  });
  if (turned) await queueBars(loopId);
}

export type Correction = { readonly [A in Attribute]: { readonly attribute: A; readonly value: FactValues[A] } }[Attribute];

/**
 * A person's word on a fact. It stands until the person's next, whatever later analyses say.
 * @returns what is wrong with it, in words; null when it is taken
 */
export async function correctFact(loopId: number, correction: Correction, personId: number): Promise<string | null> {
  if (correction.attribute === 'start') {
    const loop = await Loop.findByPk(loopId, { attributes: ['lengthSeconds'], rejectOnEmpty: true });
    if (correction.value > loop.lengthSeconds - 0.05)
      return `Bar 1 has to begin inside the sound, which is ${loop.lengthSeconds.toFixed(2)} s long.`;
  }
  await takeWord(loopId, correction, personId);
  if (attributeRow(correction.attribute).shapesBars) await queueBars(loopId);
  return null;
}

/** A person's word in the place of their last; what was told of it is told anew. */
async function takeWord(loopId: number, correction: Correction, personId: number): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await putWord(loopId, correction, personId, transaction);
    await chooseAgain(loopId, transaction);
  });
  await recordActivity(personId, 'corrected', 'loop', loopId, correction);
  await announceLoops([loopId]);
}

/** Attributes on which a person's word ends with a new one on this: itself, and what it unsays. */
export const endedBy = (attribute: Attribute): readonly string[] => [attribute, ...attributeRow(attribute).unsays];

/** Writes a person's word in the place of their last. What follows from it is for `chooseAgain`. */
export async function putWord(loopId: number, { attribute, value }: Correction, personId: number, transaction: Transaction): Promise<void> {
  await dropWords(loopId, endedBy(attribute), transaction);
  await Fact.create(
    factRow(
      loopId,
      { attribute, source: 'person', candidates: [{ value: value as never, probability: 1 }], reason: 'corrected by hand' },
      personId,
    ),
    { transaction },
  );
}

/** Ends what persons said of some attributes. */
export async function dropWords(loopId: number, attributes: readonly string[], transaction: Transaction): Promise<void> {
  await Fact.update(
    { supersededAt: new Date() },
    { where: { loopId, attribute: { [Op.in]: [...attributes] }, source: 'person', supersededAt: null }, transaction },
  );
}

/** Queues what hangs on bars to be heard anew; several wishes in a row are one job. */
export const queueBars = (loopId: number): Promise<void> => addJob('tell-bars-anew', { loopId }, `tell-bars-anew-${loopId}`);

/** Makes a fact as it stands a person's word; nothing for what has no value. */
export async function agreeWithFact(loopId: number, attribute: Attribute, personId: number): Promise<void> {
  const value = (await chosenFactsOf([loopId])).get(loopId)?.[attribute]?.value;
  if (value !== undefined) await takeWord(loopId, { attribute, value } as Correction, personId);
}

/** Takes a person's correction back, so that the detectors speak again. */
export async function withdrawCorrection(loopId: number, attribute: Attribute, personId: number): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await Fact.update({ supersededAt: new Date() }, { where: { loopId, attribute, source: 'person', supersededAt: null }, transaction });
    await chooseAgain(loopId, transaction);
  });
  if (attributeRow(attribute).shapesBars) await queueBars(loopId);
  await recordActivity(personId, 'withdrew a correction of', 'loop', loopId, { attribute });
  await announceLoops([loopId]);
}
