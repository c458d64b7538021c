import { Readable } from 'node:stream';
import type { Transaction } from 'sequelize';
import { heardTracks, loopIdsIn } from '~core/arrangement/tree';
import { selectRows } from '../db/connection';
import { findExportSql, forgetOlderSql } from '../db/queries/exports';
import { ExportRow } from '../db/models/projects';
import { inTransaction } from '../db/transaction';
import { announce, hearAnnouncements } from '../events/announce.server';
import { addJob } from '../jobs/queue.server';
import { cancelTasks, exportInPool, stemsInPool, TaskEnded } from '../jobs/pool/pool.server';
import type { ExportForm, ExportResult, StemsResult } from '../jobs/pool/protocol';
import type { StoredFile } from '../storage/file-storage';
import { dropUnreferred, keepFile, keepStaged } from '../storage/keeping.server';
import type { WholeLoop } from '~contracts/whole-loop';
import { openProject } from './projects.server';
import { findRowsById } from './search.server';
import type { SignedIn } from './sessions.server';
import { creditsText, usedLoops } from './used-loops.server';

/** Asks for a mixdown, or that with its stems, of a project as it is now: what is changed afterwards is not in it. */
export async function requestExport(projectId: number, personId: number, form: ExportForm): Promise<number | null> {
  const open = await openProject(projectId, personId);
  if (!open) return null;
  return inTransaction(async (transaction) => {
    const { id } = await ExportRow.create(
      { projectId, personId, revision: open.revision, project: open.project, ...form },
      { transaction },
    );
    await addJob('export-project', { exportId: id }, `export-${id}`, transaction);
    return id;
  });
}

const taskOf = (exportId: number): string => `export-${exportId}`,
  underWay = { state: ['queued', 'working'] },
  /** How far it is is told no more often. */
  toldEveryMs = 400;

/** Stops what has not gone out yet. It is its own person's to stop, and the keepers'. @returns whether it was there to be stopped */
export async function stopExport(exportId: number, person: SignedIn): Promise<boolean> {
  const mine = person.role === 'keeper' ? {} : { personId: person.id },
    [count] = await ExportRow.update({ state: 'stopped', message: null }, { where: { id: exportId, ...underWay, ...mine } });
  if (count > 0) await announce({ kind: 'export', exportId });
  return count > 0;
}

/** The job: renders through the same schedule as the live engine, stores the file and the list of what was used. */
export async function exportProject(exportId: number): Promise<void> {
  const [count] = await ExportRow.update({ state: 'working' }, { where: { id: exportId, ...underWay } });
  if (count === 0) return;
  await announce({ kind: 'export', exportId });
  // Whichever process hears that it is to stop: the thread is here.
  const endIfStopped = () =>
      void ExportRow.count({ where: { id: exportId, state: 'stopped' } }).then(
        (stopped) => stopped > 0 && cancelTasks(taskOf(exportId)),
        () => {},
      ),
    deaf = hearAnnouncements((event) => {
      if (event.kind === 'export' && event.exportId === exportId && event.share === undefined) endIfStopped();
    }, endIfStopped);
  try {
    await makeExport(await ExportRow.findByPk(exportId, { rejectOnEmpty: true }));
  } catch (error) {
    if (!(error instanceof TaskEnded && error.reason === 'cancelled')) throw error;
  } finally {
    deaf();
  }
  await announce({ kind: 'export', exportId });
}

async function makeExport(row: ExportRow): Promise<void> {
  const project = row.project ?? (await openProject(row.projectId, row.personId))?.project,
    heard = project && { ...project, tracks: heardTracks(project) },
    used = heard ? await findRowsById(loopIdsIn(heard), row.personId) : [];
  if (!project || !heard?.tracks.some(({ clips }) => clips.length > 0))
    return void (await row.update({ state: 'failed', message: 'There is nothing to hear: no clips yet, or all of them are muted.' }));
  const { id, bits, rateHz, overs } = row,
    credits = creditsText(project, await usedLoops(project, used)),
    asked = { name: taskOf(id), project, sources: used.map((loop) => loop.source), bits, rateHz, overs },
    done = (made: Omit<ExportResult, 'wav'> | StemsResult) => async (stored: StoredFile, transaction: Transaction) => {
      const [count] = await ExportRow.update(
        { state: 'done', fileSha256: stored.sha256, message: exportWords(row, made, used), credits },
        { where: { id, state: 'working' }, transaction },
      );
      // Stopped in the last moment: nothing of it stays.
      if (count === 0) throw new TaskEnded('cancelled');
    };
  let toldMs = 0;
  const onProgress = (share: number) => {
    if (Date.now() - toldMs < toldEveryMs) return;
    toldMs = Date.now();
    void announce({ kind: 'export', exportId: id, share: Math.round(share * 100) / 100 }).catch(() => {});
  };
  if (row.what === 'stems') {
    const made = await stemsInPool({ ...asked, credits }, onProgress);
    await keepStaged(made.zip, done(made));
  } else {
    const { wav, ...made } = await exportInPool(asked, onProgress);
    await keepFile(Readable.from([Buffer.from(wav.buffer, wav.byteOffset, wav.byteLength)]), done(made));
  }
  await forgetOlder(row.projectId);
}

/** Only so many of a kind are kept of a project: stems are as large as a whole pack. What was done stays listed. */
const mostKept = 3;

async function forgetOlder(projectId: number): Promise<void> {
  const forgotten = await selectRows<{ fileSha: string }>(forgetOlderSql, [projectId, mostKept]);
  await dropUnreferred(forgotten.map(({ fileSha }) => fileSha));
}

/** How loud it is and what was done about it, and which loops are missing, in a sentence or two. */
function exportWords(
  { bits, overs }: Pick<ExportForm, 'bits' | 'overs'>,
  made: Omit<ExportResult, 'wav'> | StemsResult,
  used: readonly WholeLoop[],
): string | null {
  const { peakDbfs, loweredDb, silentLoopIds } = made,
    silent = used.filter(({ id }) => silentLoopIds.includes(id)).map(({ title }) => `“${title}”`),
    over = peakDbfs !== null && peakDbfs > 0 ? peakDbfs : null,
    level =
      over !== null && loweredDb > 0
        ? `The sum reached ${over.toFixed(1)} dB over full scale; all of it was brought down by ${loweredDb.toFixed(1)} dB.`
        : over !== null && bits === 32
          ? `The sum reaches ${over.toFixed(1)} dB over full scale, which this format keeps as it is.`
          : over !== null && overs === 'clip'
            ? `The sum reaches ${over.toFixed(1)} dB over full scale and was clipped there, as you asked.`
            : loweredDb > 0
              ? `A stem reached full scale; all were brought down by ${loweredDb.toFixed(1)} dB, and the mixdown with them.`
              : peakDbfs !== null
                ? `Peak ${peakDbfs.toFixed(1).replace('-', '−')} dBFS.`
                : '';
  const files =
    'zip' in made ? `${counted(made.stems, 'stem')}${made.noteFiles > 0 ? `, notes of ${counted(made.noteFiles, 'track')}` : ''}.` : '';
  return (
    [files, level, silent.length > 0 ? `Could not be played and is silent: ${silent.join(', ')}.` : ''].filter(Boolean).join(' ') || null
  );
}

const counted = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

export interface ExportLine {
  readonly id: number;
  readonly what: ExportForm['what'];
  readonly bits: number;
  readonly rateHz: number;
  readonly state: 'queued' | 'working' | 'done' | 'failed' | 'stopped';
  readonly message: string | null;
  readonly fileSha: string | null;
  readonly credits: string | null;
  readonly createdAt: string;
  readonly revision: number;
}

export async function listExports(projectId: number): Promise<ExportLine[]> {
  const rows = await ExportRow.findAll({ where: { projectId }, order: [['id', 'desc']], limit: 6 });
  return rows.map((row) => ({
    id: row.id,
    what: row.what,
    bits: row.bits,
    rateHz: row.rateHz,
    state: row.state,
    message: row.message,
    fileSha: row.fileSha256,
    credits: row.credits,
    createdAt: row.createdAt.toISOString(),
    revision: row.revision,
  }));
}

export async function failExport(exportId: number): Promise<void> {
  await ExportRow.update(
    { state: 'failed', message: 'The mixdown could not be made. Try again; if it happens again, a loop’s file may be missing.' },
    { where: { id: exportId, ...underWay } },
  );
  await announce({ kind: 'export', exportId });
}

/** One mixdown with its project's name; null when there is none. */
export async function findExport(exportId: number): Promise<{
  readonly name: string;
  readonly fileSha: string | null;
  readonly credits: string | null;
  readonly what: ExportForm['what'];
  readonly bits: number;
  readonly rateHz: number;
} | null> {
  const [row] = await selectRows<NonNullable<Awaited<ReturnType<typeof findExport>>>>(findExportSql, [exportId]);
  return row ?? null;
}
