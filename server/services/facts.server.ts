import { Op, type Transaction, type WhereOptions } from 'sequelize';
import type { PartialAnalysis } from '~core/analysis/analyse-audio';
import type { Detail } from '~core/analysis/analysis';
import { chooseFacts, type LoopFacts } from '~core/analysis/evidence/choose';
import { isReadByPattern } from '~core/analysis/evidence/from-names';
import { sameValue, type Candidate, type Evidence } from '~core/analysis/facts';
import { analyserVersion, outdatedParts, partVersions, type Part } from '~core/analysis/parts';
import { isSaidBy } from '~core/analysis/said-by';
import { sequelize } from '../db/connection';
import { tagNamesSql } from '../db/queries/facts';
import { Fact, Loop, Pack } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { addJob } from '../jobs/queue.server';
import { factColumns, measureColumns, profileColumn, searchText } from './loop-columns';

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

/**
 * A loop whose facts, or what is told by them, nobody else writes until the transaction ends: of two who say something at once the second has read
 * what the first said. Weaker than a lock that rows which name the loop would wait for.
 */
export const lockLoop = (loopId: number, transaction: Transaction): Promise<Loop> =>
  Loop.findByPk(loopId, { transaction, lock: transaction.LOCK.NO_KEY_UPDATE, rejectOnEmpty: true });

/**
 * Locks several loops, the lowest number first. Who writes more than one in a transaction takes them like this before the first: two who have some
 * of them in common then wait for each other in one direction only.
 */
export const lockLoops = async (ids: readonly number[], transaction: Transaction): Promise<void> =>
  void (await Loop.findAll({
    where: { id: { [Op.in]: [...ids] } },
    attributes: ['id'],
    order: [['id', 'asc']],
    lock: transaction.LOCK.NO_KEY_UPDATE,
    transaction,
  }));

/** The facts of a locked loop by all that is said of it. */
export async function chosenIn(loop: Loop, transaction: Transaction): Promise<LoopFacts> {
  const facts = await Fact.findAll({ where: { loopId: loop.id, supersededAt: null }, order: [['id', 'asc']], transaction });
  return chooseFacts(facts.map(toEvidence), measuredOf(loop));
}

/** Chooses a loop's facts anew from all that is said of it, and brings its columns up to date. */
export async function chooseAgain(loopId: number, transaction: Transaction): Promise<LoopFacts> {
  const loop = await lockLoop(loopId, transaction),
    chosen = await chosenIn(loop, transaction);
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
  await inTransaction(async (transaction) => {
    const loop = await lockLoop(loopId, transaction),
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
  await inTransaction(async (transaction) => {
    const { tempoBpm: before } = await lockLoop(loopId, transaction);
    await Fact.update({ supersededAt: new Date() }, { where: { ...which, loopId, supersededAt: null }, transaction });
    await Fact.bulkCreate(
      (await evidence(transaction)).map((each) => factRow(loopId, each, null)),
      { transaction },
    );
    const { tempoBpm: now } = await chooseAgain(loopId, transaction);
    if (before !== null && now !== null && !sameValue('tempo', before, now)) await queueBars(loopId, transaction);
  });
}

/** Queues what hangs on bars to be heard anew, once what it hangs on is kept; asked for several times in a row it is one job. */
export const queueBars = (loopId: number, transaction: Transaction): Promise<void> =>
  addJob('tell-bars-anew', { loopId }, `tell-bars-anew-${loopId}`, transaction);
