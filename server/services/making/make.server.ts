import { Readable } from 'node:stream';
import type { Transaction } from 'sequelize';
import type { MadeHow, Sheet } from '~contracts/making';
import { evidence, type Evidence } from '~core/analysis/facts';
import { canFollowChords } from '~core/arrangement/harmony/chord-plan';
import type { StatedChords } from '~contracts/stated-chords';
import { loopIdsIn, ofLoop, patternOf } from '~core/arrangement/tree';
import { extensionOf } from '~core/formats/sniff';
import { factsOfPart, factsOfTake } from '~core/making/facts-of-part';
import { fileNameOf } from '~core/names/file-name';
import { factsOfSteps } from '~core/workbench/facts-of-steps';
import { selectRows, sequelize } from '../../db/connection';
import { Loop } from '../../db/models/library';
import { Person } from '../../db/models/people';
import { MakingRow } from '../../db/models/makings';
import { licencesOfLoopsSql } from '../../db/queries/licence';
import { archiveEmptyPackSql } from '../../db/queries/makings';
import { inTransaction } from '../../db/transaction';
import { announce, announceLibrary } from '../../events/announce.server';
import { analyseInPool, makeInPool } from '../../jobs/pool/pool.server';
import type { AnalyseResult } from '../../jobs/pool/protocol';
import { addJob, addJobInLine } from '../../jobs/queue.server';
import type { StoredFile } from '../../storage/file-storage';
import { dropUnreferred, keepFile, keepStaged } from '../../storage/keeping.server';
import type { WholeLoop } from '~contracts/whole-loop';
import { storage } from '../../storage/storage.server';
import { addLoop, freePath } from '../loops.server';
import { recordActivity } from '../people.server';
import { findRowsById } from '../search.server';
import { keepSaidChords, keepStatedChords } from '../stated-chords.server';

/** The loops that something is made of. */
const sourceIdsOf = (how: MadeHow): number[] =>
  how.kind === 'part' ? loopIdsIn(how.part) : how.from && 'loopId' in how.from ? [how.from.loopId] : [];

/** What is known of a loop by how it was made. */
function factsOfMaking(how: MadeHow, sources: readonly WholeLoop[]): Evidence[] {
  if (how.kind === 'file') return factsOfTake(how.tempoBpm);
  if (how.kind === 'steps') return factsOfSteps(how.steps, how.setting, sources[0]?.title ?? '');
  return factsOfPart(
    how.part,
    how.lengthBeats,
    how.from && 'projectName' in how.from ? how.from.projectName : '',
    sources.map(({ source }) => source),
  );
}

/** The chords over which a part was made, where something in it goes with key or chords of the piece. */
function chordsOfMaking(how: MadeHow, sources: readonly WholeLoop[]): StatedChords | null {
  if (how.kind !== 'part' || how.part.chords.length === 0) return null;
  const byId = new Map(sources.map(({ id, source }) => [id, source])),
    isOverThem = how.part.tracks.some(({ clips }) =>
      clips.some((clip) => {
        const source = ofLoop(byId, clip);
        return clip.chordWay !== null && (source ? canFollowChords(source) : patternOf(how.part, clip)?.isDrums === false);
      }),
    );
  if (!isOverThem) return null;
  return { marks: how.part.chords, source: 'project', by: how.from && 'projectName' in how.from ? how.from.projectName : '' };
}

/** What a person says on the sheet; what is left open is heard. */
function factsOfSheet({ kind, instrument, genre, character, setRole, landingSeconds }: Sheet): Evidence[] {
  const said = <A extends Parameters<typeof evidence>[0]>(attribute: A, value: unknown) =>
    evidence(attribute, 'person', [{ value: value as never, probability: 1 }], 'said when it was made');
  return [
    ...(kind ? [said('kind', kind)] : []),
    ...(instrument ? [said('instrument', instrument)] : []),
    ...(genre.length > 0 ? [said('genre', genre)] : []),
    ...(character.length > 0 ? [said('character', character)] : []),
    ...(setRole ? [said('setRole', setRole)] : []),
    ...(landingSeconds === null ? [] : [said('landing', landingSeconds)]),
  ];
}

/** Facts that only what goes round has, and only such ones. */
const rhythmic: ReadonlySet<Evidence['attribute']> = new Set(['tempo', 'beats', 'meter', 'start']);

interface MadeFile {
  readonly fileSha256: string;
  readonly ending: string;
  readonly bytes: number;
  readonly silentLoopIds: readonly number[];
}

/** The file of what is made: rendered, and kept under its making; what came in as a file is there. @returns in words why it cannot be */
async function fileOf(row: MakingRow, rows: readonly WholeLoop[]): Promise<MadeFile | string> {
  const { how } = row;
  if (how.kind === 'file') {
    const fileSha256 = row.fileSha256 as string,
      bytes = (await storage.stat(fileSha256))?.bytes ?? 0;
    return { fileSha256, ending: extensionOf(how.fileName) || 'wav', bytes, silentLoopIds: [] };
  }
  const made = await makeInPool({ ...how, task: 'make', sources: rows.map(({ source }) => source) });
  if (!made.ok) return made.message;
  const { bytes, media, silentLoopIds } = made,
    fileSha256 = await keepFile(streamOf(bytes), async ({ sha256 }, transaction) => {
      await row.update({ fileSha256: sha256 }, { transaction });
      return sha256;
    });
  return { fileSha256, ending: media === 'midi' ? 'mid' : 'wav', bytes: bytes.length, silentLoopIds };
}

/** The job: renders what was asked for, listens to it as to any other file, and adds it with what is known. Safe to run twice. */
export async function makeLoop(makingId: number): Promise<void> {
  const row = await MakingRow.findByPk(makingId);
  if (!row || row.state === 'done' || row.state === 'failed') return;
  await row.update({ state: 'working' });
  await announce({ kind: 'making', makingId, personId: row.personId });
  const { how, sheet, packId, personId } = row,
    rows = await findRowsById(sourceIdsOf(how), personId),
    file = await fileOf(row, rows);
  if (typeof file === 'string') return endFailed(row, file);
  const { fileSha256, ending, bytes, silentLoopIds } = file,
    fileName = `${fileNameOf(sheet.name, 'Loop')}.${ending}`,
    licences = await selectRows<{ licence: string }>(licencesOfLoopsSql, [sourceIdsOf(how)]),
    heard = await analyseInPool({ fileSha256, vendorPath: fileName }, { name: 'make', bytes });
  if (!heard.ok) return endFailed(row, heard.message);
  // What is said to be no loop has no rhythm that repeats; what nothing is said of is as it is heard.
  const isLoop = sheet.kind === 'loop' || sheet.kind === null,
    known = factsOfMaking(how, rows).filter(({ attribute }) => isLoop || !rhythmic.has(attribute)),
    same = await Loop.findOne({ where: { fileSha256, archivedAt: null }, attributes: ['title'] }),
    person = await Person.findByPk(personId, { rejectOnEmpty: true }),
    add = async (soundSha256: string, transaction: Transaction) => {
      const { loopId } = await addLoop(
        {
          packId,
          vendorPath: await freePath(packId, fileName, transaction),
          fileSha256,
          soundSha256,
          personId,
          result: heard,
          tags: sheet.tags,
          mayBeTwin: true,
          title: sheet.name,
          setName: sheet.setName,
          madeUnder:
            licences
              .map(({ licence }) => licence)
              .filter(Boolean)
              .join(' · ') || null,
          known,
          said: factsOfSheet(sheet),
        },
        transaction,
      );
      const chords = chordsOfMaking(how, rows);
      if (sheet.chords !== '') await keepSaidChords(loopId, sheet.chords, person.name, transaction);
      else if (chords) await keepStatedChords(loopId, chords, transaction);
      // What hangs on it is queued with it: whatever happens to this process, it is seen together with the others of its pack.
      await addJobInLine('settle-pack', { packId }, `settle-pack-${packId}`, transaction);
      await addJob('find-twins', { packId }, `find-twins-${packId}`, transaction);
      await row.update({ state: 'done', loopId, fileSha256: null, message: wordsFor(silentLoopIds, rows, same) }, { transaction });
      return loopId;
    },
    loopId = await keepSound(heard, fileSha256, add);
  await dropUnreferred([fileSha256]);
  await recordActivity(personId, 'gave back', 'loop', loopId, { title: sheet.name });
  await announceLibrary();
  await announce({ kind: 'making', makingId, personId });
}

const streamOf = (bytes: Uint8Array): Readable => Readable.from([Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)]);

const keepSound = <T>(
  { sound }: Extract<AnalyseResult, { ok: true }>,
  fileSha256: string,
  add: (soundSha256: string, transaction: Transaction) => Promise<T>,
): Promise<T> => {
  const record = ({ sha256 }: StoredFile, transaction: Transaction) => add(sha256, transaction);
  if (sound === null) return inTransaction((transaction) => add(fileSha256, transaction));
  return sound instanceof Uint8Array ? keepFile(streamOf(sound), record) : keepStaged(sound, record);
};

/** What is told beside that it is there: what was silent in it, and that the very same sound is in the library already. */
function wordsFor(silent: readonly number[], rows: readonly WholeLoop[], same: { readonly title: string } | null): string | null {
  const titles = rows
      .filter(({ id }) => silent.includes(id))
      .map(({ title }) => `“${title}”`)
      .join(', '),
    words = [
      ...(silent.length > 0 ? [`Could not be played and is silent in it: ${titles}.`] : []),
      ...(same ? [`The very same sound is in the library already, as “${same.title}”.`] : []),
    ];
  return words.length > 0 ? words.join(' ') : null;
}

async function endFailed(row: MakingRow, message: string): Promise<void> {
  const { fileSha256 } = row;
  await row.update({ state: 'failed', message, fileSha256: null });
  await dropUnreferred([fileSha256]);
  await sequelize.query(archiveEmptyPackSql, { bind: [row.packId] });
  await announceLibrary();
  await announce({ kind: 'making', makingId: row.id, personId: row.personId });
}

/** One that was given up. */
export async function failMaking(makingId: number): Promise<void> {
  const row = await MakingRow.findByPk(makingId);
  if (row && row.state !== 'done')
    await endFailed(row, 'It could not be made. Try again; if it happens again, a loop’s file may be missing.');
}
