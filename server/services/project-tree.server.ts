import { group } from 'd3-array';
import type { Transaction } from 'sequelize';
import { emptyProject, type Clip, type Project, type Track } from '~core/arrangement/tree';
import type { Key } from '~core/theory/key';
import type { ProjectRow } from '../db/models/projects';
import { ChordRow, ClipRow, PatternRow, SectionRow, TrackRow } from '../db/models/projects';

/** A project out of its rows. */
export async function loadTree(row: ProjectRow, transaction?: Transaction): Promise<Project> {
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
export const keyOfRow = ({ keyTonic, keyMode, keyChurch }: Pick<ProjectRow, 'keyTonic' | 'keyMode' | 'keyChurch'>): Key | null =>
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
export async function storeChanges(id: number, before: Project, after: Project, transaction: Transaction): Promise<void> {
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

/** What of a project stands in its own row. */
export const headColumns = (project: Project) => ({
  name: project.name,
  tempoBpm: project.tempoBpm,
  keyTonic: project.key?.tonic ?? null,
  keyMode: project.key?.mode ?? null,
  keyChurch: project.key?.church ?? null,
  meter: project.meter,
  masterGainDb: project.masterGainDb,
});
