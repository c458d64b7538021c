import { randomUUID } from 'node:crypto';
import { group } from 'd3-array';
import { LRUCache } from 'lru-cache';
import type { Transaction } from 'sequelize';
import type { Edit } from '~core/arrangement/edit';
import { putOn, takebacksOf, type Refused, type Step } from '~core/arrangement/shared-project';
import type { Agreed, StepsTaken } from '~contracts/project-steps';
import { emptyProject, loopIdOf, loopIdsIn, loopIdsOf, type Clip, type Project, type Track } from '~core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import type { Key } from '~core/theory/key';
import { selectRows, sequelize } from '../db/connection';
import { keepStepsSql, knownStepsSql, ownStepsSql, stepsSinceSql } from '../db/queries/project-edits';
import { loopsThereSql, projectsSql } from '../db/queries/projects';
import { ChordRow, ClipRow, PatternRow, ProjectRow, SectionRow, TrackRow } from '../db/models/projects';
import { announce } from '../events/announce.server';
import { recordActivity } from './people.server';
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

async function loadTree(row: ProjectRow, transaction?: Transaction): Promise<Project> {
  const where = { projectId: row.id };
  // One after the other: a transaction is one connection.
  const sections = await SectionRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction }),
    chords = await ChordRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction }),
    tracks = await TrackRow.findAll({ where, order: [['position', 'asc']], raw: true, transaction }),
    clips = await ClipRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction }),
    patterns = await PatternRow.findAll({ where, order: [['position', 'asc']], raw: true, transaction });
  const toClip = ({ projectId: _, trackId: __, loopId, patternId, ...clip }: ClipRow): Clip => ({
    kind: 'clip',
    content: loopId === null ? { kind: 'notes', patternId: patternId ?? '' } : { kind: 'loop', loopId },
    ...clip,
  });
  const clipsByTrack = group(clips, ({ trackId }) => trackId),
    toTrack = ({ projectId: _, position: __, ...track }: TrackRow): Track => ({
      kind: 'track',
      ...track,
      clips: (clipsByTrack.get(track.id) ?? []).map(toClip),
    });
  const key = keyOfRow(row);
  return {
    ...emptyProject(row.name, row.tempoBpm, key, row.meter),
    masterGainDb: row.masterGainDb,
    sections: sections.map((section) => ({
      kind: 'section',
      id: section.id,
      name: section.name,
      startBeat: section.startBeat,
      lengthBeats: section.lengthBeats,
      ...(section.key ? { key: section.key } : {}),
    })),
    chords: chords.map(({ startBeat, symbol }) => ({ startBeat, symbol })),
    patterns: patterns.map(({ projectId: _, position: __, ...pattern }) => ({ kind: 'pattern', ...pattern })),
    tracks: tracks.map(toTrack),
  };
}

/** The key that a row of a project says. */
const keyOfRow = ({ keyTonic, keyMode, keyChurch }: Pick<ProjectRow, 'keyTonic' | 'keyMode' | 'keyChurch'>): Key | null =>
  keyTonic === null || keyMode === null ? null : { tonic: keyTonic, mode: keyMode, ...(keyChurch ? { church: keyChurch } : {}) };

/** Stores the patterns that differ, and their order. */
async function storePatterns(id: number, before: Project, after: Project, transaction: Transaction): Promise<void> {
  if (before.patterns === after.patterns) return;
  const gone = before.patterns.filter((was) => !after.patterns.some((pattern) => pattern.id === was.id)).map((was) => was.id);
  if (gone.length > 0) await PatternRow.destroy({ where: { projectId: id, id: gone }, transaction });
  for (const [position, pattern] of after.patterns.entries()) {
    if (before.patterns[position] === pattern) continue;
    const { kind: _, ...columns } = pattern;
    await PatternRow.upsert({ projectId: id, position, ...columns }, { transaction });
  }
}

/** Stores what differs between two trees, and nothing else: what is the same object is the same. */
async function storeChanges(id: number, before: Project, after: Project, transaction: Transaction): Promise<void> {
  const where = { projectId: id };
  if (before.sections !== after.sections) {
    await SectionRow.destroy({ where, transaction });
    await SectionRow.bulkCreate(
      after.sections.map(({ kind: _, ...section }) => ({ projectId: id, ...section })),
      { transaction },
    );
  }
  if (before.chords !== after.chords) {
    await ChordRow.destroy({ where, transaction });
    await ChordRow.bulkCreate(
      after.chords.map((chord) => ({ projectId: id, ...chord })),
      { transaction },
    );
  }
  await storePatterns(id, before, after, transaction);
  if (before.tracks === after.tracks) return;
  const clipsOf = (project: Project) =>
      new Map(project.tracks.flatMap((track) => track.clips.map((clip) => [clip.id, { clip, trackId: track.id }] as const))),
    [clipsBefore, clipsAfter] = [clipsOf(before), clipsOf(after)],
    tracksBefore = new Map(before.tracks.map((track, position) => [track.id, { track, position }])),
    staying = new Set(after.tracks.map(({ id: trackId }) => trackId)),
    goneClips = [...clipsBefore.keys()].filter((clipId) => !clipsAfter.has(clipId));
  if (goneClips.length > 0) await ClipRow.destroy({ where: { ...where, id: goneClips }, transaction });
  for (const [position, { kind: _, clips: __, ...track }] of after.tracks.entries()) {
    const was = tracksBefore.get(track.id);
    if (was && was.track === after.tracks[position] && was.position === position) continue;
    await TrackRow.upsert({ projectId: id, position, ...track }, { transaction });
  }
  const changed = [...clipsAfter.values()].filter(({ clip, trackId }) => {
    const was = clipsBefore.get(clip.id);
    return !was || was.clip !== clip || was.trackId !== trackId;
  });
  if (changed.length > 0)
    await ClipRow.bulkCreate(
      changed.map(({ clip: { kind: _, content, ...clip }, trackId }) => ({
        ...clip,
        projectId: id,
        trackId,
        loopId: content.kind === 'loop' ? content.loopId : null,
        patternId: content.kind === 'notes' ? content.patternId : null,
      })),
      { transaction, updateOnDuplicate: [...clipFields], conflictAttributes: ['projectId', 'id'] },
    );
  // Last, for what has moved from one track to another is on the other by now.
  const goneTracks = before.tracks.filter(({ id: trackId }) => !staying.has(trackId)).map(({ id: trackId }) => trackId);
  if (goneTracks.length > 0) await TrackRow.destroy({ where: { ...where, id: goneTracks }, transaction });
}

const clipFields = [
  'trackId',
  'loopId',
  'startBeat',
  'lengthBeats',
  'offsetBeats',
  'gainDb',
  'shiftSemitones',
  'followTempo',
  'followKey',
  'overrides',
  'fadeInBeats',
  'fadeOutBeats',
  'muted',
  'landsAfterBeats',
  'patternId',
  'chordWay',
  'shiftMarks',
] as const satisfies readonly (keyof ClipRow)[];

const headColumns = (project: Project) => ({
  name: project.name,
  tempoBpm: project.tempoBpm,
  keyTonic: project.key?.tonic ?? null,
  keyMode: project.key?.mode ?? null,
  keyChurch: project.key?.church ?? null,
  meter: project.meter,
  masterGainDb: project.masterGainDb,
});

/** Which revision a project has; null when there is none. */
export const revisionOf = async (id: number): Promise<number | null> =>
  (await ProjectRow.findByPk(id, { attributes: ['revision'] }))?.revision ?? null;

/** Stores a new project as it is given. */
export async function createProject(project: Project, personId: number): Promise<number> {
  const id = await sequelize.transaction(async (transaction) => {
    const row = await ProjectRow.create({ ...headColumns(project), createdBy: personId }, { transaction });
    await storeChanges(row.id, emptyProject(project.name, project.tempoBpm, project.key, project.meter), project, transaction);
    return row.id;
  });
  await recordActivity(personId, 'started', 'project', id, { name: project.name });
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
  const result = await sequelize.transaction(async (transaction) => {
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
    };
  });
  if (!result) return null;
  trees.set(id, { revision: result.now, project: result.project });
  if (result.taken > 0) await announce({ kind: 'project', projectId: id, revision: result.now });
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

export async function archiveProject(id: number, archived: boolean, personId: number): Promise<void> {
  await ProjectRow.update({ archivedAt: archived ? new Date() : null }, { where: { id } });
  await recordActivity(personId, archived ? 'archived' : 'restored', 'project', id);
}
