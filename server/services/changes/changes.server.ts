import type { Transaction } from 'sequelize';
import { changeInWords, type Change } from '~core/library/change';
import { parseLoopQuery } from '~core/search/query';
import { rangeParameter, readHeardRange } from '~contracts/heard-range';
import { roomOf } from '~contracts/room-address';
import { selectRows, sequelize } from '../../db/connection';
import {
  changeableSql,
  findChangeSql,
  idsSql,
  leftOfChangeSql,
  leftToUndoSql,
  listChangesSql,
  lockChangeSql,
  makeChangeSql,
  markUndoneSql,
  othersAmongSql,
  rememberBeforeSql,
  setChangeStateSql,
} from '../../db/queries/changes';
import { loopConditions } from '../../db/queries/loop-filter';
import { announceLibrary, announceLoops } from '../../events/announce.server';
import { addJob } from '../../jobs/queue.server';
import type { SearchProject } from '../../db/queries/line-conditions';
import { inTransaction } from '../../db/transaction';
import { lockLoops } from '../facts.server';
import { lookUpIds } from '../look-up.server';
import { recordActivity } from '../people.server';
import { roomProject } from '../room.server';
import { searchFor } from '../search-context.server';
import type { SignedIn } from '../sessions.server';
import { applyTo, bringBack, type Before } from './apply.server';
import { effectOf, type Changeable, type Effect } from './effect';

/** Which loops: by id, or all that an address of the Library finds. */
export type Selection = { readonly ids: readonly number[] } | { readonly address: string };

/** So many are changed in one step at most: more is a narrower choice, twice. */
export const mostChanged = 100_000;
const mostIds = 5000;

/** Ids of a part of what a search finds, in the list's order. @param project by which an order by fit goes */
export async function idsOf(
  address: string,
  personId: number,
  limit: number,
  offset = 0,
  project: SearchProject | null = null,
): Promise<number[]> {
  const parameters = new URLSearchParams(address),
    query = parseLoopQuery(parameters),
    found = await lookUpIds({ query, personId, project, range: readHeardRange(parameters.get(rangeParameter)) }, offset, limit);
  if (found) return found;
  const { context } = await searchFor(query, personId, project),
    { sql, bind } = idsSql(loopConditions(query, context), query, project);
  return (await selectRows<{ id: number }>(sql, [...bind, limit, offset])).map(({ id }) => id);
}

/** What is chosen, as ids. A search that goes by the project in the room goes by the one that its address names. */
export async function resolveSelection(selection: Selection, personId: number): Promise<number[]> {
  if ('ids' in selection) return [...new Set(selection.ids)].slice(0, mostIds);
  const room = roomOf(new URL(`?${selection.address.replace(/^\?/, '')}`, 'http://here.invalid'));
  return idsOf(selection.address, personId, mostChanged, 0, await roomProject(room ?? null));
}

async function changeable(ids: readonly number[], personId: number): Promise<Map<number, Changeable>> {
  return new Map((await selectRows<Changeable>(changeableSql, [ids, personId])).map((row) => [row.id, row]));
}

export interface Preview {
  /** How many are chosen. */
  readonly chosen: number;
  /** Of those looked at, how many would change, and of how many. */
  readonly changing: number;
  readonly lookedAt: number;
  readonly lines: readonly (Effect & { readonly id: number; readonly title: string })[];
}

const previewed = 500,
  previewLines = 12;

/** What a change would do, looked at on the first hundreds of the chosen. */
export async function previewChange(selection: Selection, change: Change, personId: number): Promise<Preview> {
  const ids = await resolveSelection(selection, personId),
    first = ids.slice(0, previewed),
    rows = await changeable(first, personId),
    effects = first.flatMap((id, k) => {
      const row = rows.get(id),
        effect = row && effectOf(row, change, k + 1);
      return effect ? [{ ...effect, id, title: row.title }] : [];
    });
  return { chosen: ids.length, changing: effects.length, lookedAt: first.length, lines: effects.slice(0, previewLines) };
}

/** Whether a person may do this to these loops; what is wrong, in words. Archiving what others brought in is a keeper's. */
async function refused(ids: readonly number[], change: Change, person: SignedIn): Promise<string | null> {
  if (ids.length === 0) return 'Choose loops first.';
  if (change.kind !== 'archive' || person.role === 'keeper') return null;
  const [{ count }] = await selectRows<{ count: number }>(othersAmongSql, [ids, person.id]);
  return count > 0 ? `${count} of these were brought in by others: only a keeper archives them.` : null;
}

/** Begins a change to many loops; a job does it, and it is one step back. @returns its number and how many, or what is wrong in words */
export async function makeChange(
  selection: Selection,
  change: Change,
  person: SignedIn,
): Promise<{ readonly id: number; readonly loops: number } | string> {
  const ids = await resolveSelection(selection, person.id),
    wrong = await refused(ids, change, person);
  if (wrong !== null) return wrong;
  const id = await inTransaction(async (transaction) => {
    const [rows] = await sequelize.query(makeChangeSql, { bind: [person.id, JSON.stringify(change), ids], transaction }),
      [made] = rows as { id: number }[];
    await addJob('change-loops', { changeId: made.id }, `change-${made.id}`, transaction);
    return made.id;
  });
  await recordActivity(person.id, 'edited', 'selection', null, { loops: ids.length, name: changeInWords(change) });
  return { id, loops: ids.length };
}

interface ChangeRow {
  readonly id: number;
  readonly personId: number;
  readonly change: Change;
  readonly loopIds: readonly number[];
  readonly state: 'queued' | 'done' | 'undoing' | 'undone';
}

const atOnce = 100;

/** Locks a change for one step of a job; null when it is not in that state any more. */
async function lockedIn(id: number, state: ChangeRow['state'], transaction: Transaction): Promise<ChangeRow | null> {
  const [rows] = await sequelize.query(lockChangeSql, { bind: [id], transaction }),
    [row] = rows as ChangeRow[];
  return row?.state === state ? row : null;
}

/** The job: a hundred loops a transaction, each with what was before. A killed one goes on where it was. */
export async function runChange(changeId: number): Promise<void> {
  for (;;) {
    const touched = await inTransaction(async (transaction) => {
      const row = await lockedIn(changeId, 'queued', transaction);
      if (!row) return null;
      const left = await selectRows<{ id: number; place: number }>(leftOfChangeSql, [changeId, atOnce]);
      if (left.length === 0) {
        await sequelize.query(setChangeStateSql, { bind: [changeId, 'done'], transaction });
        return null;
      }
      const ids = left.map(({ id }) => id);
      await lockLoops(ids, transaction);
      const rows = await changeable(ids, row.personId);
      for (const { id, place } of left) {
        const loop = rows.get(id),
          before = loop && effectOf(loop, row.change, place) ? await applyTo(loop, row.change, place, row.personId, transaction) : null;
        // Also of what was gone or needed nothing, so that it is not looked at again.
        if (loop) await sequelize.query(rememberBeforeSql, { bind: [changeId, id, place, JSON.stringify(before ?? {})], transaction });
      }
      return ids;
    });
    if (touched === null) break;
    await announceLoops(touched);
  }
  await announceLibrary();
}

/** Takes a whole change back. @returns what is wrong, in words; null when it has begun */
export async function undoChange(changeId: number, person: SignedIn): Promise<string | null> {
  const wrong = await inTransaction(async (transaction) => {
    const [rows] = await sequelize.query(lockChangeSql, { bind: [changeId], transaction }),
      [row] = rows as ChangeRow[];
    if (!row) return 'There is no such change.';
    if (row.personId !== person.id && person.role !== 'keeper') return 'Only who made a change, or a keeper, takes it back.';
    if (row.state === 'undone' || row.state === 'undoing') return 'It is taken back already.';
    await sequelize.query(setChangeStateSql, { bind: [changeId, 'undoing'], transaction });
    await addJob('undo-change', { changeId }, `undo-change-${changeId}`, transaction);
    return null;
  });
  return wrong;
}

/** The job that takes a change back, a hundred loops a transaction. */
export async function runUndo(changeId: number): Promise<void> {
  for (;;) {
    const touched = await inTransaction(async (transaction) => {
      const row = await lockedIn(changeId, 'undoing', transaction);
      if (!row) return null;
      const left = await selectRows<{ loopId: number; before: Before }>(leftToUndoSql, [changeId, atOnce]);
      if (left.length === 0) {
        await sequelize.query(setChangeStateSql, { bind: [changeId, 'undone'], transaction });
        return null;
      }
      const ids = left.map(({ loopId }) => loopId);
      await lockLoops(ids, transaction);
      for (const { loopId, before } of left) await bringBack(loopId, before, row.personId, transaction);
      await sequelize.query(markUndoneSql, { bind: [changeId, ids], transaction });
      return ids;
    });
    if (touched === null) break;
    await announceLoops(touched);
  }
  const [row] = await selectRows<ChangeRow>(findChangeSql, [changeId]);
  if (row)
    await recordActivity(row.personId, 'took back an edit of', 'selection', null, {
      loops: row.loopIds.length,
      name: changeInWords(row.change),
    });
  await announceLibrary();
}

export interface ChangeLine {
  readonly id: number;
  readonly words: string;
  readonly loops: number;
  readonly state: ChangeRow['state'];
  readonly madeAt: string;
  readonly person: string;
}

/** The latest changes, for who looks what happened. */
export async function listChanges(limit = 20): Promise<ChangeLine[]> {
  const rows = await selectRows<{ id: number; change: Change; loops: number; state: ChangeRow['state']; madeAt: Date; person: string }>(
    listChangesSql,
    [limit],
  );
  return rows.map(({ change, madeAt, ...row }) => ({ ...row, words: changeInWords(change), madeAt: madeAt.toISOString() }));
}
