import { BaseError, type Transaction } from 'sequelize';
import { applyEdit, EditError, type Edit } from '~core/arrangement/edit';
import { emptyProject, type Clip, type Project, type Track } from '~core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import type { Key } from '~core/theory/key';
import { selectRows, sequelize } from '../db/connection';
import { projectsSql } from '../db/queries/projects';
import { ChordRow, ClipRow, ProjectRow, SectionRow, TrackRow } from '../db/models/projects';
import { announce } from '../events/announce.server';
import { recordActivity } from './people.server';
import { findRowsById } from './search.server';

/** A project with the loops it uses; null when there is none or it is archived. */
export async function openProject(id: number, personId: number): Promise<OpenProject | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  if (!row) return null;
  const project = await loadTree(row);
  const ids = [...new Set(project.tracks.flatMap((track) => track.clips.map((clip) => clip.loopId)))];
  return { id, revision: row.revision, project, loops: await findRowsById(ids, personId) };
}

/** A project as a tree; null when there is none or it is archived. */
export async function readTree(id: number): Promise<Project | null> {
  const row = await ProjectRow.findOne({ where: { id, archivedAt: null } });
  return row && loadTree(row);
}

async function loadTree(row: ProjectRow, transaction?: Transaction): Promise<Project> {
  const where = { projectId: row.id };
  // One after the other: a transaction is one connection.
  const sections = await SectionRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction }),
    chords = await ChordRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction }),
    tracks = await TrackRow.findAll({ where, order: [['position', 'asc']], raw: true, transaction }),
    clips = await ClipRow.findAll({ where, order: [['startBeat', 'asc']], raw: true, transaction });
  const toClip = (clip: ClipRow): Clip => ({
    kind: 'clip',
    id: clip.id,
    loopId: clip.loopId,
    startBeat: clip.startBeat,
    lengthBeats: clip.lengthBeats,
    offsetBeats: clip.offsetBeats,
    gainDb: clip.gainDb,
    shiftSemitones: clip.shiftSemitones,
    followTempo: clip.followTempo,
    followKey: clip.followKey,
    ...(Object.keys(clip.overrides).length > 0 ? { overrides: clip.overrides } : {}),
  });
  const toTrack = (track: TrackRow): Track => ({
    kind: 'track',
    id: track.id,
    name: track.name,
    colour: track.colour,
    gainDb: track.gainDb,
    pan: track.pan,
    muted: track.muted,
    soloed: track.soloed,
    clips: clips.filter((clip) => clip.trackId === track.id).map(toClip),
  });
  const key: Key | null = row.keyTonic === null || row.keyMode === null ? null : { tonic: row.keyTonic, mode: row.keyMode };
  return {
    ...emptyProject(row.name, row.tempoBpm, key, row.meter),
    masterGainDb: row.masterGainDb,
    sections: sections.map((section) => ({
      kind: 'section',
      id: section.id,
      name: section.name,
      startBeat: section.startBeat,
      lengthBeats: section.lengthBeats,
    })),
    chords: chords.map(({ startBeat, symbol }) => ({ startBeat, symbol })),
    tracks: tracks.map(toTrack),
  };
}

async function storeTree(id: number, project: Project, transaction: Transaction): Promise<void> {
  const where = { projectId: id },
    options = { where, transaction };
  await SectionRow.destroy(options);
  await ChordRow.destroy(options);
  await TrackRow.destroy(options);
  await SectionRow.bulkCreate(
    project.sections.map(({ kind: _, ...section }) => ({ projectId: id, ...section })),
    { transaction },
  );
  await ChordRow.bulkCreate(
    project.chords.map((chord) => ({ projectId: id, ...chord })),
    { transaction },
  );
  await TrackRow.bulkCreate(
    project.tracks.map(({ kind: _, clips: __, ...track }, position) => ({ projectId: id, position, ...track })),
    { transaction },
  );
  await ClipRow.bulkCreate(
    project.tracks.flatMap((track) =>
      track.clips.map(({ kind: _, overrides = {}, ...clip }) => ({ projectId: id, trackId: track.id, overrides, ...clip })),
    ),
    { transaction },
  );
}

const headColumns = (project: Project) => ({
  name: project.name,
  tempoBpm: project.tempoBpm,
  keyTonic: project.key?.tonic ?? null,
  keyMode: project.key?.mode ?? null,
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
    await storeTree(row.id, project, transaction);
    return row.id;
  });
  await recordActivity(personId, 'started', 'project', id, { name: project.name });
  return id;
}

export type EditResult =
  | { readonly ok: true; readonly revision: number }
  | { readonly ok: false; readonly reason: 'stale' | 'refused' | 'missing'; readonly message: string; readonly revision: number };

/**
 * Applies edits that were made on `revision`. When somebody else has changed the project since, nothing is changed and the
 * sender is told; an edit that does not fit refuses the whole list.
 */
export async function editProject(id: number, revision: number, edits: readonly Edit[]): Promise<EditResult> {
  const result = await applyInTransaction(id, revision, edits).catch((error: unknown): EditResult => {
    // An edit from outside may be of any shape; what the tree or the database refuses is refused as a whole.
    if (!(error instanceof EditError || error instanceof TypeError || error instanceof BaseError)) throw error;
    return {
      ok: false,
      reason: 'refused',
      message: error instanceof EditError ? error.message : 'The change does not fit this project.',
      revision,
    };
  });
  if (result.ok) await announce({ kind: 'project', projectId: id, revision: result.revision });
  return result;
}

function applyInTransaction(id: number, revision: number, edits: readonly Edit[]): Promise<EditResult> {
  return sequelize.transaction(async (transaction): Promise<EditResult> => {
    const row = await ProjectRow.findOne({ where: { id, archivedAt: null }, lock: transaction.LOCK.UPDATE, transaction });
    if (!row) return { ok: false, reason: 'missing', message: 'The project is no longer there.', revision };
    if (row.revision !== revision)
      return {
        ok: false,
        reason: 'stale',
        message: 'Somebody else has changed this project since. Nothing of theirs was overwritten.',
        revision: row.revision,
      };
    let project = await loadTree(row, transaction);
    for (const edit of edits) project = applyEdit(project, edit).project;
    await storeTree(id, project, transaction);
    await row.update({ ...headColumns(project), revision: revision + 1, changedAt: new Date() }, { transaction });
    return { ok: true, revision: revision + 1 };
  });
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
    Omit<ProjectLine, 'key' | 'changedAt'> & { keyTonic: number | null; keyMode: 'major' | 'minor' | null; changedAt: Date }
  >(projectsSql, [archived]);
  return rows.map(({ keyTonic, keyMode, changedAt, ...row }) => ({
    ...row,
    changedAt: changedAt.toISOString(),
    key: keyTonic === null || keyMode === null ? null : { tonic: keyTonic, mode: keyMode },
  }));
}

export async function archiveProject(id: number, archived: boolean, personId: number): Promise<void> {
  await ProjectRow.update({ archivedAt: archived ? new Date() : null }, { where: { id } });
  await recordActivity(personId, archived ? 'archived' : 'restored', 'project', id);
}
