import { mkdirSync, renameSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseLoopQuery } from '~core/search/query';
import { beats, openLibrary, storeStaysWhole, until, wav, zipOf, type Library, type Services } from './services';

const load = async () => ({
  ...(await import('~server/services/folders/folders.server')),
  ...(await import('~server/services/folders/look-into.server')),
  ...(await import('~server/services/folders/walk.server')),
  config: (await import('~server/config.server')).config,
  ...(await import('~server/db/models/imports')),
});
let library: Library, s: Services, folders: Awaited<ReturnType<typeof load>>, root: string;
beforeAll(async () => {
  library = await openLibrary();
  ({ s } = library);
  folders = await load();
  root = join(folders.config.folderRoots[0], 'Barge recordings');
  mkdirSync(root, { recursive: true });
});
afterAll(() => library.close());

/** Writes a file that nobody writes on any more. */
function put(path: string, bytes: Buffer, secondsAgo = 60): void {
  const full = join(root, path),
    at = Date.now() / 1000 - secondsAgo;
  mkdirSync(dirname(full), { recursive: true });
  writeFileSync(full, bytes);
  utimesSync(full, at, at);
}
const draft = { packName: 'Barge recordings', vendor: 'Driftglass Textures', licence: '', description: '', leaveOut: 'takes' },
  count = async (address: string) =>
    s.search.countLoops(await s.search.searchFor(parseLoopQuery(new URLSearchParams(address)), library.person)),
  settled = () =>
    until(async () => (await s.imports.listBatches(50)).every(({ state }) => ['done', 'failed', 'cancelled'].includes(state))),
  look = async (id: number) => {
    await folders.lookIntoFolder(id);
    expect(await settled()).toBe(true);
  };

describe('folders on the server', () => {
  storeStaysWhole(() => s);
  let id: number, packId: number;

  test('only what lies in an allowed folder may be chosen, wherever a link leads', async () => {
    symlinkSync('/etc', join(folders.config.folderRoots[0], 'elsewhere'));
    expect(folders.allowedFolder('/etc')).toBeNull();
    expect(folders.allowedFolder(join(folders.config.folderRoots[0], 'elsewhere'))).toBeNull();
    expect(folders.allowedFolder(join(root, '../../..'))).toBeNull();
    expect(await folders.addFolder('/etc', draft, false, library.person)).toMatch(/not among those/);
    expect(await folders.foldersToChoose()).toContain(root);
    expect(await folders.foldersToChoose()).not.toContain(join(folders.config.folderRoots[0], 'elsewhere'));
  });
  test('what lies in it comes in as one pack, sounds, archives and texts, without what is left out', async () => {
    put('Drums/kit 104 bpm.wav', wav(beats(104, 8)));
    put('Takes/again 104 bpm.wav', wav(beats(105, 8)));
    put('more.zip', await zipOf([['inside 108 bpm.wav', wav(beats(108, 8))]]));
    put('licence.txt', Buffer.from('For the ferry only.'));
    put('notes.xyz', Buffer.from('no sound'));
    const added = await folders.addFolder(root, draft, true, library.person);
    expect(typeof added).toBe('number');
    id = added as number;
    expect(await until(async () => (await folders.listFolders()).some(({ lookedAt }) => lookedAt !== null))).toBe(true);
    expect(await settled()).toBe(true);
    const [batch] = await s.imports.listBatches(1);
    packId = batch.packId as number;
    expect(await count(`pack=${packId}`)).toBe(2);
    expect(
      (
        await s.loops.findLoop(
          (await s.imports.listBatchFiles(batch.id)).find(({ path }) => path.includes('kit 104'))?.loopId as number,
          library.person,
        )
      )?.licence,
    ).toBe('For the ferry only.');
    expect((await folders.listFolders())[0]).toMatchObject({ files: 3, isWatched: true });
  });
  test('what comes while the one before is held and has no pack yet waits for it', async () => {
    const { packName, vendor, licence, description } = draft,
      held = await folders.ImportBatch.create({
        ...{ packName, vendor, licence, description },
        personId: library.person,
        folderId: id,
        state: 'paused',
      }),
      before = (await s.imports.listBatches(50)).length;
    put('Drums/later 106 bpm.wav', wav(beats(106, 8)));
    await folders.lookIntoFolder(id);
    expect(await s.imports.listBatches(50)).toHaveLength(before);
    rmSync(join(root, 'Drums/later 106 bpm.wav'));
    await held.destroy();
  });
  test('a look that finds nothing new leaves no import behind', async () => {
    const before = (await s.imports.listBatches(50)).length;
    await look(id);
    expect((await s.imports.listBatches(50)).length).toBe(before);
    expect((await s.imports.listOpenBatches(library.person)).length).toBe(0);
  });
  test('a new file comes into the same pack; one that is still being written waits', async () => {
    put('Drums/later 112 bpm.wav', wav(beats(112, 8)));
    put('Drums/writing 114 bpm.wav', wav(beats(114, 8)), 0);
    await look(id);
    expect(await count(`pack=${packId}`)).toBe(3);
    expect((await folders.listFolders())[0].message).toMatch(/still being written/);
    put('Drums/writing 114 bpm.wav', wav(beats(114, 8)));
    await look(id);
    expect(await count(`pack=${packId}`)).toBe(4);
  });
  test('a file that was moved is known by its contents: its loop keeps what was said of it and has its new place', async () => {
    const [{ id: loopId }] = await s.db.selectRows<{ id: number }>("select id from loops where vendor_path = 'Drums/kit 104 bpm.wav'");
    await s.words.correctFact(loopId, { attribute: 'tempo', value: 52 }, library.person);
    mkdirSync(join(root, 'Kits'));
    renameSync(join(root, 'Drums/kit 104 bpm.wav'), join(root, 'Kits/old kit.wav'));
    const batches = (await s.imports.listBatches(50)).length;
    await look(id);
    expect((await s.imports.listBatches(50)).length).toBe(batches);
    expect(await s.db.selectRows('select vendor_path, file_name, tempo_bpm from loops where id = $1', [loopId])).toEqual([
      { vendor_path: 'Kits/old kit.wav', file_name: 'old kit.wav', tempo_bpm: 52 },
    ]);
    expect(await count('folder=Kits/')).toBe(1);
    expect(await count(`pack=${packId}`)).toBe(4);
  });
  test('a file that was changed comes in beside the old one, and one that is gone stays in the library', async () => {
    put('Drums/later 112 bpm.wav', wav(beats(116, 8)), 30);
    rmSync(join(root, 'Drums/writing 114 bpm.wav'));
    await look(id);
    expect(await count(`pack=${packId}`)).toBe(5);
    expect(await s.db.selectRows("select 1 from loops where vendor_path = 'Drums/later 112 bpm (2).wav'")).toHaveLength(1);
    expect(await folders.FolderFile.count({ where: { folderId: id } })).toBe(4);
  });
  test('a look that was killed leaves nothing, and the next brings everything in once', async () => {
    put('Drums/killed 120 bpm.wav', wav(beats(120, 8)));
    const { ImportBatch } = await import('~server/db/models/imports'),
      left = await ImportBatch.create({ ...draft, leaveOut: [], tags: [], personId: library.person, folderId: id, state: 'receiving' });
    await look(id);
    expect(await ImportBatch.findByPk(left.id)).toBeNull();
    expect(await count('q=killed')).toBe(1);
    await look(id);
    expect(await count('q=killed')).toBe(1);
  });
  test('a folder that went away says so, and is forgotten without its loops', async () => {
    renameSync(root, `${root} away`);
    await folders.lookIntoFolder(id);
    expect((await folders.listFolders())[0].message).toMatch(/not there/);
    expect(await folders.removeFolder(id, library.person)).toBe(true);
    expect(await folders.listFolders()).toEqual([]);
    expect(await count(`pack=${packId}`)).toBe(6);
    // By now there is none of it.
    expect(await Promise.all([folders.removeFolder(id, library.person), folders.setWatched(id, true), folders.askToLook(id)])).toEqual([
      false,
      false,
      false,
    ]);
  });
});
