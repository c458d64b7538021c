import type { Transaction } from 'sequelize';
import type { HowAsked, MadeHow, MakingLine, MakingsAsked, PackFor, Sheet } from '~contracts/making';
import { loopIdsIn, ofLoop } from '~core/arrangement/tree';
import { heardPart, partOf } from '~core/making/part';
import { selectRows, sequelize } from '../../db/connection';
import { Pack } from '../../db/models/library';
import { MakingRow } from '../../db/models/makings';
import { addSourcesSql, ownPacksSql, sameNamesSql } from '../../db/queries/makings';
import { inTransaction } from '../../db/transaction';
import { addJob } from '../../jobs/queue.server';
import { openProject } from '../projects.server';
import { findRowsById } from '../search.server';

/** Packs that take what the group makes. */
export const ownPacks = (): Promise<{ readonly id: number; readonly name: string; readonly vendor: string; readonly licence: string }[]> =>
  selectRows(ownPacksSql);

/** What keeps a loop from being made, in words for who asked. */
export class CannotMake extends Error {}

/** Everything that is needed to make it, as it is now: what is changed in the project afterwards is not in it. @throws {CannotMake} */
async function settle(how: HowAsked, name: string, personId: number): Promise<{ how: MadeHow; loopIds: readonly number[] }> {
  if (how.kind === 'steps') {
    const [row] = await findRowsById([how.loopId], personId);
    if (!row || row.source.media !== 'audio') throw new CannotMake('That loop cannot be worked on.');
    if (how.as === 'notes' && how.steps.at(-1)?.kind !== 'slices') throw new CannotMake('Only a pattern of slices can be kept as notes.');
    return {
      how: { kind: 'steps', as: how.as, steps: how.steps, setting: how.setting, from: { loopId: how.loopId } },
      loopIds: [how.loopId],
    };
  }
  const open = await openProject(how.projectId, personId);
  if (!open) throw new CannotMake('That project is no longer there.');
  const { asked } = how,
    rows = await findRowsById(loopIdsIn(open.project), personId),
    kinds = new Map(rows.map(({ id, source }) => [id, source.kind])),
    playsOnce = (kind: string | undefined) => kind === 'one-shot' || kind === 'phrase',
    part = heardPart(partOf(open.project, name, asked, (clip) => playsOnce(ofLoop(kinds, clip)))),
    loopIds = loopIdsIn(part);
  if (part.tracks.length === 0) throw new CannotMake(`There is nothing to hear in “${name}”: no clips there, or all of them are muted.`);
  if (how.as === 'notes' && part.patterns.length === 0 && !rows.some(({ id, source }) => source.media === 'midi' && loopIds.includes(id)))
    throw new CannotMake(`There are no notes in “${name}”: give it back as sound.`);
  const { toBeat, fromBeat, tail } = asked;
  return {
    how: { kind: 'part', as: how.as, part, lengthBeats: toBeat - fromBeat, tail, from: { projectName: open.project.name } },
    loopIds,
  };
}

async function packFor({ packId, name, vendor, licence }: PackFor, personId: number, transaction: Transaction): Promise<number> {
  if (packId === null) {
    if ((await Pack.count({ where: { name, isOwn: true, archivedAt: null }, transaction })) > 0)
      throw new CannotMake(`There is a pack “${name}” of your own already: choose it, or call this one otherwise.`);
    return (await Pack.create({ name, vendor, licence, description: '', addedBy: personId, isOwn: true }, { transaction })).id;
  }
  if ((await Pack.count({ where: { id: packId, isOwn: true, archivedAt: null }, transaction })) === 0)
    throw new CannotMake('That pack is not one of the group’s own, or is archived.');
  return packId;
}

/** Asks for loops to be made, all or none. @returns their numbers, or in words why not */
export async function requestMakings({ pack, makings }: MakingsAsked, personId: number): Promise<readonly number[] | string> {
  try {
    const settled: ({ readonly sheet: Sheet } & Awaited<ReturnType<typeof settle>>)[] = [];
    for (const { sheet, how } of makings) settled.push({ sheet, ...(await settle(how, sheet.name, personId)) });
    return await inTransaction(async (transaction) => {
      const packId = await packFor(pack, personId, transaction),
        made: number[] = [];
      for (const { sheet, how, loopIds } of settled) {
        const row = await MakingRow.create({ personId, packId, sheet, how }, { transaction });
        await sequelize.query(addSourcesSql, { bind: [row.id, loopIds], transaction });
        await addJob('make-loop', { makingId: row.id }, `make-${row.id}`, transaction);
        made.push(row.id);
      }
      return made;
    });
  } catch (error) {
    if (error instanceof CannotMake) return error.message;
    throw error;
  }
}

/** Loops of a pack that are called as those that are to come: told before they are made. */
export const sameNames = (packId: number, names: readonly string[]): Promise<{ id: number; title: string }[]> =>
  selectRows(sameNamesSql, [packId, names.map((name) => name.toLowerCase())]);

const toLine = ({ id, sheet, state, message, loopId }: MakingRow): MakingLine => ({ id, name: sheet.name, state, message, loopId });

/** What a person has had made, the latest first. */
export async function makingsOf(personId: number, ids?: readonly number[]): Promise<MakingLine[]> {
  const rows = await MakingRow.findAll({ where: { personId, ...(ids ? { id: [...ids] } : {}) }, order: [['id', 'desc']], limit: 60 });
  return rows.map(toLine);
}
