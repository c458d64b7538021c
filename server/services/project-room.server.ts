import type { Project } from '~core/arrangement/tree';
import type { BarNote, Present, VersionLine } from '~contracts/project-room';
import { selectRows } from '../db/connection';
import {
  addNoteSql,
  dropNoteSql,
  dropVersionSql,
  forgetGoneSql,
  keepVersionSql,
  notesSql,
  restoreNoteSql,
  restoreVersionSql,
  tickNoteSql,
  versionsSql,
  versionSql,
} from '../db/queries/project-room';
import { announce } from '../events/announce.server';
import { treeNow } from './projects.server';

type Dated<T> = { readonly [K in keyof T]: K extends 'at' ? Date : K extends 'doneAt' ? Date | null : T[K] };

/** The named states of a project, the latest first. */
export async function versionsOf(projectId: number, personId: number): Promise<VersionLine[]> {
  const rows = await selectRows<Dated<VersionLine>>(versionsSql, [projectId, personId]);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** A project as it was when a version was kept; null when there is none of that number. */
export async function versionOf(
  projectId: number,
  versionId: number,
): Promise<{ readonly project: Project; readonly name: string } | null> {
  const [row] = await selectRows<{ project: Project; name: string }>(versionSql, [projectId, versionId]);
  return row ?? null;
}

/** Keeps a project as it is now under a name. @returns null when there is no such project */
export async function keepVersion(projectId: number, name: string, personId: number): Promise<number | null> {
  const now = await treeNow(projectId);
  if (!now) return null;
  const [{ id }] = await selectRows<{ id: number }>(keepVersionSql, [projectId, name, now.revision, JSON.stringify(now.project), personId]);
  await announce({ kind: 'project-room', projectId });
  return id;
}

/** Forgets a version; the project stays as it is, and for a day it can be brought back. @returns its name, or null when there is none */
export async function dropVersion(projectId: number, versionId: number): Promise<string | null> {
  await selectRows(forgetGoneSql);
  const [row] = await selectRows<{ name: string }>(dropVersionSql, [projectId, versionId]);
  if (row) await announce({ kind: 'project-room', projectId });
  return row?.name ?? null;
}

/** Brings back a version that was forgotten. @returns whether there was one */
export async function restoreVersion(projectId: number, versionId: number): Promise<boolean> {
  const [row] = await selectRows(restoreVersionSql, [projectId, versionId]);
  if (row) await announce({ kind: 'project-room', projectId });
  return row !== undefined;
}

/** What is said to the bars of a project, in their order. */
export async function notesOf(projectId: number, personId: number): Promise<BarNote[]> {
  const rows = await selectRows<Dated<BarNote>>(notesSql, [projectId, personId]);
  return rows.map((row) => ({ ...row, at: row.at.toISOString(), doneAt: row.doneAt?.toISOString() ?? null }));
}

/** Says something to a beat, or to such a note. @returns null when what it answers is not there */
export async function addNote(
  projectId: number,
  { beat, note, answersId }: Pick<BarNote, 'beat' | 'note' | 'answersId'>,
  personId: number,
): Promise<number | null> {
  const [row] = await selectRows<{ id: number }>(addNoteSql, [projectId, answersId, beat, note, personId]);
  if (row) await announce({ kind: 'project-room', projectId });
  return row?.id ?? null;
}

/** Ticks a note off, or takes it up again. @returns whether it is there */
export async function tickNote(projectId: number, noteId: number, isDone: boolean, personId: number): Promise<boolean> {
  const [row] = await selectRows(tickNoteSql, [projectId, noteId, isDone, personId]);
  if (row) await announce({ kind: 'project-room', projectId });
  return row !== undefined;
}

/** Takes back a note of one's own, with its answers; for a day it can be said again. @returns whether there was one */
export async function dropNote(projectId: number, noteId: number, personId: number): Promise<boolean> {
  await selectRows(forgetGoneSql);
  return changeOwnNote(dropNoteSql, projectId, noteId, personId);
}

/** Says again what one has taken back, with the answers to it. @returns whether there was such a note */
export const restoreNote = (projectId: number, noteId: number, personId: number): Promise<boolean> =>
  changeOwnNote(restoreNoteSql, projectId, noteId, personId);

async function changeOwnNote(sql: string, projectId: number, noteId: number, personId: number): Promise<boolean> {
  const [row] = await selectRows(sql, [projectId, noteId, personId]);
  if (row) await announce({ kind: 'project-room', projectId });
  return row !== undefined;
}

/** Tells the others who is here, and what they hold. Nothing of it is kept. */
export const tellPresence = (present: Present): Promise<void> => announce({ kind: 'presence', ...present });
