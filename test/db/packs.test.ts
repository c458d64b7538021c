import { Readable } from 'node:stream';
import { parseLoopQuery } from '~core/search/query';
import { parseWav } from '~core/formats/wav/parse';
import type { BatchDraft } from '~server/services/imports/receive.server';
import { beats, importAll, openLibrary, storeStaysWhole, until, wav, zipOf, type Files, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
const load = async () => ({
  page: await import('~server/services/pack-page.server'),
  demo: await import('~server/services/demo-mix.server'),
  models: await import('~server/db/models/library'),
});
let more: Awaited<ReturnType<typeof load>>;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  more = await load();
});
afterAll(() => library.close());

const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]),
  found = async (address: string) => s.search.countLoops(await s.search.searchFor(parseLoopQuery(new URLSearchParams(address)), person));

/** Imports files under a draft's conditions. @returns the rows and the pack */
async function importUnder(draft: Partial<BatchDraft>, files: Files) {
  const id = await s.imports.openBatch({ packName: 'Under', vendor: '', licence: '', description: '', ...draft }, person);
  for (const [path, bytes] of files) await s.imports.receiveFile(id, person, path, Readable.from([bytes]));
  await s.imports.startBatch(id, person);
  const batch = async () => (await s.imports.listBatches(50)).find((each) => each.id === id);
  expect(await until(async () => (await batch())?.state === 'done')).toBe(true);
  return { lines: await s.imports.listBatchFiles(id), packId: (await batch())?.packId as number };
}

describe('packs', () => {
  storeStaysWhole(() => s);

  test('texts, PDFs and pictures stay with their pack, from an archive and beside it; what is not what it says does not', async () => {
    const zip = await zipOf([
        ['Tide/hit 92 bpm.wav', wav(beats(92, 8))],
        ['Tide/Licence.txt', Buffer.from('Free for any piece.\nReally.')],
        ['Tide/art/front.png', png],
        ['Tide/manual.pdf', Buffer.from('%PDF-1.4 …')],
        ['Tide/trick.pdf', Buffer.from('<script>alert(1)</script>')],
        ['Tide/empty.txt', Buffer.from('')],
      ]),
      { lines, packId } = await importUnder({ packName: 'Tide' }, [
        ['tide.zip', zip],
        ['Readme.md', Buffer.from('Made at the harbour.')],
      ]),
      state = (end: string) => lines.find(({ path }) => path.endsWith(end))?.state,
      page = await more.page.findPackPage(packId, person);
    expect(['Licence.txt', 'front.png', 'manual.pdf', 'Readme.md', 'trick.pdf', 'empty.txt'].map(state)).toEqual([
      'kept',
      'kept',
      'kept',
      'kept',
      'left-aside',
      'left-aside',
    ]);
    expect(page).toMatchObject({ licence: 'Free for any piece.', description: 'Made at the harbour.' });
    expect(page?.documents.map(({ path, kind }) => [path, kind])).toEqual([
      ['Readme.md', 'text'],
      ['Tide/Licence.txt', 'text'],
      ['Tide/art/front.png', 'picture'],
      ['Tide/manual.pdf', 'pdf'],
    ]);
    // The only picture is the cover.
    expect(page?.coverId).toBe(page?.documents.find(({ kind }) => kind === 'picture')?.id);
    expect(page?.folders).toMatchObject({ name: 'Tide', count: 1 });
  });
  test('files that are here already: skipped, listed in both packs, or kept a second time', async () => {
    const bytes = wav(beats(141, 8));
    await importAll(library, 'First', [['same 141 bpm.wav', bytes]]);
    const skipped = await importUnder({ packName: 'Skips' }, [['a.wav', bytes]]),
      linked = await importUnder({ packName: 'Links', duplicates: 'link' }, [['b.wav', bytes]]),
      kept = await importUnder({ packName: 'Keeps', duplicates: 'keep' }, [
        ['c.wav', bytes],
        ['d.wav', bytes],
      ]);
    expect([skipped, linked, kept].map(({ lines }) => lines.map(({ state }) => state))).toEqual([
      ['duplicate'],
      ['duplicate'],
      ['done', 'done'],
    ]);
    expect(linked.lines[0].message).toMatch(/belongs to this pack as well/);
    expect([await found(`pack=${skipped.packId}`), await found(`pack=${linked.packId}`), await found(`pack=${kept.packId}`)]).toEqual([
      0, 1, 2,
    ]);
    // A pack into which nothing came is put away; one that shares a loop is not.
    expect((await more.models.Pack.findByPk(skipped.packId))?.archivedAt).not.toBeNull();
    expect((await more.models.Pack.findByPk(linked.packId))?.archivedAt).toBeNull();
    expect((await more.page.findPackPage(linked.packId, person))?.linked).toBe(1);
    // The pack that it came with first is put away, and deleted: it stays where it is listed.
    const [{ id: first }] = await s.db.selectRows<{ id: number }>("select id from packs where name = 'First'");
    await s.packs.archivePack(first, true, person);
    expect(await found(`pack=${linked.packId}`)).toBe(1);
    expect(await s.deletePack.deletePackForGood(first, person)).toMatchObject({ ok: true, loops: 0, kept: 1 });
    // With neither of them there it is gone.
    await s.packs.archivePack(linked.packId, true, person);
    expect(await s.deletePack.deletePackForGood(first, person)).toMatchObject({ ok: true, loops: 1, kept: 0 });
  });
  test('a pack that is renamed is found by its new name, and the old words come back', async () => {
    const { packId } = await importUnder({ packName: 'Grey weather', vendor: 'Low Lantern Basses' }, [['x 87 bpm.wav', wav(beats(87, 8))]]),
      words = { name: 'Herring sky', vendor: 'Low Lantern Basses', licence: 'Free', description: '', coverId: null },
      before = await more.page.changePack(packId, words, person);
    expect(before).toEqual({ name: 'Grey weather', licence: '' });
    expect(await until(async () => (await found('q=herring')) === 1)).toBe(true);
    expect(await found('q=grey+weather')).toBe(0);
    expect((await more.page.findPackPage(packId, person))?.history.map(({ words: what }) => what)).toContain('changed name, licence');
    // Another says something of the rest meanwhile: taken back is what was changed.
    expect(await more.page.changePack(packId, { description: 'For slow mornings' }, person)).toEqual({ description: '' });
    expect(await more.page.changePack(packId, before as never, person)).toEqual({ name: 'Herring sky', licence: 'Free' });
    expect(await more.page.findPackPage(packId, person)).toMatchObject({ name: 'Grey weather', description: 'For slow mornings' });
    expect(await until(async () => (await found('q=grey+weather')) === 1)).toBe(true);
    expect(await more.page.changePack(packId, { coverId: 999_999 }, person)).toMatch(/not one of this pack/);
  });
  test('a demo mix is sixteen bars of the pack’s own, as long as that and neither silent nor over, and made once', async () => {
    const { packId } = await importUnder({ packName: 'Beats' }, [
        ['Drums/kit loop 118 bpm.wav', wav(beats(118, 8))],
        ['Drums/kit loop 90 bpm.wav', wav(beats(90, 8))],
      ]),
      whenDone = () => until(async () => (await more.demo.findDemo(packId)).state === 'done');
    expect(await more.demo.requestDemo(packId)).toBe(true);
    expect(await more.demo.requestDemo(999_999)).toBe(false);
    expect(await whenDone()).toBe(true);
    const line = await more.demo.findDemo(packId),
      parts: Buffer[] = [];
    for await (const part of s.storage.storage.read(line.fileSha as string)) parts.push(part as Buffer);
    const { channels, sampleRateHz } = parseWav(Buffer.concat(parts)),
      peak = channels[0].reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
    expect(line.layers.map(({ role, startBar }) => [role, startBar])).toEqual([['drums', 0]]);
    expect([118, 90]).toContain(Math.round(line.tempoBpm as number));
    expect(channels[0].length / sampleRateHz).toBeCloseTo((16 * 4 * 60) / (line.tempoBpm as number), 2);
    expect(peak).toBeGreaterThan(0.05);
    expect(peak).toBeLessThanOrEqual(1);
    await more.demo.renderDemo(packId);
    expect((await more.demo.findDemo(packId)).fileSha).toBe(line.fileSha);
  });
  test('a pack of which nothing repeats says that it has no demo mix', async () => {
    const { packId } = await importUnder({ packName: 'Nothing' }, [['note.txt', Buffer.from('hello')]]);
    await more.demo.renderDemo(packId);
    expect(await more.demo.findDemo(packId)).toMatchObject({ state: 'failed', message: expect.stringMatching(/no loop in it/) });
  });
  test('a pack that is deleted for good takes its documents and its demo mix along', async () => {
    const { packId } = await importUnder({ packName: 'Short lived' }, [
      ['kit loop 99 bpm.wav', wav(beats(99, 8))],
      ['cover.png', Buffer.concat([png, Buffer.from('other')])],
    ]);
    await more.demo.renderDemo(packId);
    expect((await more.demo.findDemo(packId)).state).toBe('done');
    await s.packs.archivePack(packId, true, person);
    // The loop's file, its sound, the picture and the mix.
    expect(await s.deletePack.deletePackForGood(packId, person)).toMatchObject({ ok: true, loops: 1, files: 4 });
  });
});
