import { randomUUID } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import type { Transaction } from 'sequelize';
import type { Edit } from '~core/arrangement/edit';
import { putOn, takebacksOf, type Refused, type Step } from '~core/arrangement/shared-project';
import type { Agreed, StepsTaken } from '~contracts/project-steps';
import { emptyProject, loopIdOf, loopIdsIn, loopIdsOf, type Clip, type Project } from '~core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import type { Key } from '~core/theory/key';
import { selectRows, sequelize } from '../db/connection';
import { keepStepsSql, knownStepsSql, ownStepsSql, stepsSinceSql } from '../db/queries/project-edits';
import { loopsThereSql, projectsSql } from '../db/queries/projects';
import { ProjectRow } from '../db/models/projects';
import { inTransaction } from '../db/transaction';
import { announce } from '../events/announce.server';
import { recordActivity } from './people.server';
import { headColumns, keyOfRow, loadTree, storeChanges } from './project-tree.server';
import { findRowsById } from './search.server';

/** A project with the loops it uses; null when there is none or it is archived. */
export async function openProject(id: number, personId: number): Promise<OpenProject | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  if (!row) return null;
  const project = await loadTree(row);
  const ids = loopIdsIn(project);
  return { id, revision: row.revision, project, loops: await findRowsById(ids, personId), ...(await takebacksIn(id, personId)) };
}

/** A project as a tree; null when there is none or it is archived. */
export async function readTree(id: number): Promise<Project | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  return row && treeOf(row);
}

/** A project as a tree with its revision; null when there is none or it is archived. */
export async function treeNow(id: number): Promise<{ readonly project: Project; readonly revision: number } | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  return row && { project: await treeOf(row), revision: row.revision };
}

/** Which revision a project has; null when there is none. */
export const revisionOf = async (id: number): Promise<number | null> =>
  (await ProjectRow.findByPk(id, { attributes: ['revision'] }))?.revision ?? null;

/** Stores a new project as it is given. */
export async function createProject(project: Project, personId: number): Promise<number> {
  const id = await inTransaction(async (transaction) => {
    const row = await ProjectRow.create({ ...headColumns(project), createdBy: personId }, { transaction });
    await storeChanges(row.id, emptyProject(project.name, project.tempoBpm, project.key, project.meter), project, transaction);
    return row.id;
  });
  await recordActivity(personId, 'started', 'project', id, { name: project.name });
  await announce({ kind: 'projects' });
  return id;
}

/** Stores a project once more, under a name of its own. @returns null when there is none */
export async function duplicateProject(id: number, personId: number): Promise<number | null> {
  const project = await readTree(id);
  return project && createProject({ ...project, name: `${project.name.slice(0, 110)} (copy)` }, personId);
}

export type EditResult =
  | { readonly ok: true; readonly revision: number }
  | { readonly ok: false; readonly reason: 'refused' | 'missing'; readonly message: string; readonly revision: number };

/** Applies edits as one step, all or nothing, on top of whatever has been done since `revision`. */
export async function editProject(
  id: number,
  revision: number,
  edits: readonly Edit[],
  personId: number | null = null,
): Promise<EditResult> {
  const stepId = randomUUID(),
    taken = await takeSteps(id, revision, [{ stepId, edit: { kind: 'batch', edits } }], personId);
  if (taken === null) return { ok: false, reason: 'missing', message: 'The project is no longer there.', revision };
  const [refused] = taken.refused;
  return refused
    ? { ok: false, reason: 'refused', message: refused.message, revision: taken.revision }
    : { ok: true, revision: taken.revision };
}

/** Projects as they were last read or written, by which most steps need no reading. */
const trees = new LRUCache<number, { readonly revision: number; readonly project: Project }>({ max: 40 });

async function treeOf(row: ProjectRow, transaction?: Transaction): Promise<Project> {
  const kept = trees.get(row.id);
  return kept?.revision === row.revision ? kept.project : loadTree(row, transaction);
}

/**
 * Takes steps that were made on `revision`, on top of what others have done since: each that still fits; what no longer fits is refused by
 * itself, in words. A step that was taken before is not taken twice.
 * @returns what has been agreed since `revision`, these among it; null when there is no such project
 */
export async function takeSteps(id: number, revision: number, steps: readonly Step[], personId: number | null): Promise<StepsTaken | null> {
  const result = await inTransaction(async (transaction) => {
    const row = await ProjectRow.findOne({ where: { id, archivedAt: null }, lock: transaction.LOCK.UPDATE, transaction });
    if (!row) return null;
    const before = await treeOf(row, transaction),
      known = new Set(
        (await rowsIn<{ stepId: string }>(knownStepsSql, [id, steps.map(({ stepId }) => stepId)], transaction)).map(({ stepId }) => stepId),
      ),
      fresh = steps.filter(({ stepId }) => !known.has(stepId)),
      { there, gone } = await withKnownLoops(fresh, transaction),
      { project, taken, refused } = putOnSafely(before, there),
      now = row.revision + taken.length;
    if (taken.length > 0) {
      await storeChanges(id, before, project, transaction);
      await sequelize.query(keepStepsSql, {
        bind: [id, JSON.stringify(taken.map((step, k) => ({ ...step, revision: row.revision + 1 + k }))), personId],
        transaction,
      });
      await row.update({ ...headColumns(project), revision: now, changedAt: new Date() }, { transaction });
    }
    return {
      taken: taken.length,
      refused: [...gone, ...refused],
      agreed: await agreedSince(id, revision, now, async () => project, transaction),
      now,
      project,
      isRenamed: project.name !== before.name,
    };
  });
  if (!result) return null;
  trees.set(id, { revision: result.now, project: result.project });
  if (result.taken > 0) await announce({ kind: 'project', projectId: id, revision: result.now });
  if (result.isRenamed) await announce({ kind: 'projects' });
  return { ...result.agreed, refused: result.refused };
}

/** What has been agreed on a project since a revision; null when there is none. */
export async function stepsSince(id: number, revision: number): Promise<Agreed | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  if (!row) return null;
  return agreedSince(id, revision, row.revision, () => treeOf(row));
}

/** More steps than this are told as the project that they come to. */
const mostSteps = 400;

async function agreedSince(
  id: number,
  since: number,
  now: number,
  whole: () => Promise<Project>,
  transaction?: Transaction,
): Promise<Agreed> {
  if (since >= now) return { revision: now, steps: [] };
  const rows = await rowsIn<Step & { undoes: string | null }>(stepsSinceSql, [id, since, mostSteps + 1], transaction);
  // What was done before steps were kept, or is too much to be told.
  if (rows.length !== now - since) return { revision: now, steps: [], project: await whole() };
  return { revision: now, steps: rows.map(({ stepId, edit, undoes }) => ({ stepId, edit, ...(undoes === null ? {} : { undoes }) })) };
}

async function rowsIn<T extends object>(sql: string, bind: unknown[], transaction?: Transaction): Promise<T[]> {
  return (await sequelize.query(sql, { bind, transaction }))[0] as T[];
}

/** An edit from outside may be of any shape: what the tree cannot even read is refused as what doesn't fit. */
function putOnSafely(project: Project, steps: readonly Step[]): ReturnType<typeof putOn> {
  let current = project;
  const taken: ReturnType<typeof putOn>['taken'][number][] = [],
    refused: Refused[] = [];
  for (const step of steps)
    try {
      const put = putOn(current, [step]);
      current = put.project;
      taken.push(...put.taken);
      refused.push(...put.refused);
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      refused.push({ stepId: step.stepId, message: 'The change does not fit this project.' });
    }
  return { project: current, taken, refused };
}

const loopsPlayed = (clip: Pick<Clip, 'content'>): number[] => {
  const loopId = loopIdOf(clip);
  return loopId === null ? [] : [loopId];
};

/** The loops that an edit brings in. */
function loopsOf(edit: Edit | null): number[] {
  switch (edit?.kind) {
    case 'add-clip':
      return loopsPlayed(edit.clip);
    case 'set-clip':
      return edit.changes.content ? loopsPlayed({ content: edit.changes.content }) : [];
    case 'add-pattern':
      return edit.pattern.fromLoopId === null ? [] : [edit.pattern.fromLoopId];
    case 'add-track':
      return loopIdsOf([edit.track]);
    case 'batch':
      return edit.edits.flatMap(loopsOf);
    default:
      return [];
  }
}

/** Steps without those that bring in loops which are not there. */
async function withKnownLoops(steps: readonly Step[], transaction: Transaction): Promise<{ there: Step[]; gone: Refused[] }> {
  const wanted = [...new Set(steps.flatMap(({ edit }) => loopsOf(edit)))];
  if (wanted.length === 0) return { there: [...steps], gone: [] };
  const known = new Set((await rowsIn<{ id: number }>(loopsThereSql, [wanted], transaction)).map(({ id }) => id)),
    isThere = ({ edit }: Step) => loopsOf(edit).every((id) => known.has(id));
  return {
    there: steps.filter(isThere),
    gone: steps.filter((step) => !isThere(step)).map(({ stepId }) => ({ stepId, message: 'That loop is no longer in the library.' })),
  };
}

/** What a person could take back and do again in a project, behind a reload too. */
export async function takebacksIn(id: number, personId: number): Promise<ReturnType<typeof takebacksOf>> {
  const rows = await rowsIn<Step & { inverse: Edit; undoes: string | null }>(ownStepsSql, [id, personId, 200]);
  return takebacksOf(rows.map(({ undoes, ...step }) => ({ ...step, ...(undoes === null ? {} : { undoes }) })));
}

export interface ProjectLine {
  readonly id: number;
  readonly name: string;
  readonly tempoBpm: number;
  readonly key: Key | null;
  readonly meter: string;
  readonly tracks: number;
  readonly clips: number;
  readonly endBeat: number;
  readonly changedAt: string;
  readonly createdBy: string;
}

export async function listProjects(archived = false): Promise<ProjectLine[]> {
  const rows = await selectRows<
    Omit<ProjectLine, 'key' | 'changedAt'> & Pick<ProjectRow, 'keyTonic' | 'keyMode' | 'keyChurch'> & { changedAt: Date }
  >(projectsSql, [archived]);
  return rows.map(({ keyTonic, keyMode, keyChurch, changedAt, ...row }) => ({
    ...row,
    changedAt: changedAt.toISOString(),
    key: keyOfRow({ keyTonic, keyMode, keyChurch }),
  }));
}

/** Archives a project, or brings it back. @returns whether it is there */
export async function archiveProject(id: number, archived: boolean, personId: number): Promise<boolean> {
  const [count] = await ProjectRow.update({ archivedAt: archived ? new Date() : null }, { where: { id } });
  if (count === 0) return false;
  await recordActivity(personId, archived ? 'archived' : 'restored', 'project', id);
  await announce({ kind: 'projects' });
  return true;
}
