import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { writeWav } from '~core/formats/wav/write';
import { hits, rateHz } from '../generators/signals';
import { freshDatabase } from './database';

/** The services are loaded after the database is made, since they read its address once. */
const load = async () => ({
  imports: {
    ...(await import('~server/services/imports/receive.server')),
    ...(await import('~server/services/imports/stop.server')),
    ...(await import('~server/services/imports/progress.server')),
    ...(await import('~server/services/imports/analyse-file.server')),
    ...(await import('~server/services/imports/settle.server')),
    ...(await import('~server/services/imports/unpack-batch.server')),
  },
  keeping: await import('~server/storage/keeping.server'),
  people: {
    ...(await import('~server/services/people.server')),
    ...(await import('~server/services/sessions.server')),
    ...(await import('~server/services/passwords.server')),
  },
  search: { ...(await import('~server/services/search.server')), ...(await import('~server/services/search-context.server')) },
  facts: await import('~server/services/facts.server'),
  words: await import('~server/services/words.server'),
  loops: await import('~server/services/loops.server'),
  fitDefaults: await import('~server/services/fit-defaults.server'),
  notes: await import('~server/services/notes.server'),
  packs: await import('~server/services/packs.server'),
  deletePack: await import('~server/services/delete-pack.server'),
  doubts: await import('~server/services/doubts.server'),
  projects: await import('~server/services/projects.server'),
  room: await import('~server/services/project-room.server'),
  events: await import('~server/events/announce.server'),
  fromLoop: await import('~server/services/project-from-loop.server'),
  exports: await import('~server/services/exports.server'),
  used: await import('~server/services/used-loops.server'),
  making: {
    ...(await import('~server/services/making/ask.server')),
    ...(await import('~server/services/making/provenance.server')),
    ...(await import('~server/services/making/take-file.server')),
  },
  statedChords: await import('~server/services/stated-chords.server'),
  tags: await import('~server/services/tags.server'),
  reanalysis: await import('~server/services/reanalysis.server'),
  runner: await import('~server/jobs/runner.server'),
  db: await import('~server/db/connection'),
  storage: await import('~server/storage/storage.server'),
});
export type Services = Awaited<ReturnType<typeof load>>;

/** An empty library with one person and a runner for its jobs. */
export interface Library {
  readonly s: Services;
  readonly person: number;
  close(): Promise<void>;
}

export async function openLibrary(): Promise<Library> {
  const close = await freshDatabase(),
    s = await load(),
    added = await s.people.addPerson('Ada Quill', 'a long password', null);
  if (!added.ok) throw new Error('not added');
  const runner = await s.runner.startRunner();
  return {
    s,
    person: added.id,
    close: async () => {
      await runner.stop();
      await (await import('~server/events/announce.server')).stopHearing();
      await close();
    },
  };
}

/** Hits on every beat. */
export const beats = (tempo: number, count: number): Float32Array =>
  hits(
    Array.from({ length: count }, (_, k) => (k * 60) / tempo + 0.001),
    (count * 60) / tempo,
    tempo,
  );
export const wav = (samples: Float32Array): Buffer => Buffer.from(writeWav({ sampleRateHz: rateHz, channels: [samples] }, 'int16'));

export type Files = readonly (readonly [path: string, bytes: Buffer])[];

export async function zipOf(files: Files): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [path, bytes] of files) zip.addBuffer(bytes, path);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** Waits until all that hangs on bars has been told anew. */
export const barsAreTold = ({ db }: Services): Promise<boolean> =>
  until(async () => (await db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'tell-bars-anew'")).length === 0);

/** Imports files as a pack and waits until the last of them has come in or failed. */
export async function importAll(
  { s, person }: Library,
  packName: string,
  files: Files,
): Promise<{ id: number; lines: Awaited<ReturnType<Services['imports']['listBatchFiles']>> }> {
  const id = await s.imports.openBatch({ packName, vendor: 'Quay Street Keys', licence: '', description: '' }, person);
  for (const [path, bytes] of files) expect(await s.imports.receiveFile(id, person, path, Readable.from([bytes]))).toEqual({ ok: true });
  await s.imports.startBatch(id, person);
  const ended = await until(async () => {
    const batch = (await s.imports.listBatches(50)).find((each) => each.id === id);
    if (batch?.state !== 'done') return batch !== undefined && ['failed', 'cancelled'].includes(batch.state);
    // It is told when its loops have been seen together, which is a moment later.
    return (await s.db.selectRows("select 1 from activity where verb = 'imported' and subject_id = $1", [batch.packId])).length > 0;
  });
  if (!ended) throw new Error('the import did not end');
  return { id, lines: await s.imports.listBatchFiles(id) };
}

/** Asks again until it is so; false when half a minute went by. */
export async function until(isSo: () => Promise<boolean>): Promise<boolean> {
  for (let tries = 0; tries < 600; tries++) {
    if (await isSo()) return true;
    await new Promise((next) => setTimeout(next, 50));
  }
  return false;
}

/** Whatever a test did: every file that is referred to is there, and nothing else is. */
export function storeStaysWhole(services: () => Services): void {
  afterEach(async () => {
    let found = await services().keeping.checkStore({ readContents: true });
    await until(async () => (found = await services().keeping.checkStore({ readContents: true })).unreferred.length === 0);
    expect({ missing: found.missing, unreferred: found.unreferred, damaged: found.damaged }).toEqual({
      missing: [],
      unreferred: [],
      damaged: [],
    });
  });
}
