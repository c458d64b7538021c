import { fitLoop } from '~core/arrangement/fit-request';
import type { LoopCard } from '~contracts/loop-card';
import { coarseScore } from '~core/search/fit/coarse';
import { emptyQuery, type SortColumn } from '~core/search/query';
import { sine } from '../generators/signals';
import { beats, importAll, openLibrary, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  await importAll(library, 'Loft', [
    ['Groove 120 bpm.wav', wav(beats(120, 16))],
    ['again 111 bpm.wav', wav(beats(111, 8))],
    ['Slow Walk 82 bpm.wav', wav(beats(82, 8))],
    ['Long Tone A.wav', wav(sine(220, 2.5))],
  ]);
});
afterAll(() => library.close());

describe('search', () => {
  const find = async (changes: Partial<typeof emptyQuery>) =>
    (
      await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, ...changes }, person, { id: 1, tempoBpm: 120, key: null }), 0)
    ).rows.map((row) => row.fileName);
  test('words and prefixes, in any place; nothing of a person becomes SQL', async () => {
    expect(await find({ words: 'groov' })).toEqual(['Groove 120 bpm.wav']);
    expect(await find({ words: 'quay again' })).toEqual(['again 111 bpm.wav']);
    expect(await find({ words: "'; drop table loops; --" })).toEqual([]);
    expect(await find({ words: "it's & | ! :* (" })).toEqual([]);
  });
  test('filters, counts and charts agree', async () => {
    const query = { ...emptyQuery, tempo: { fromBpm: 110, toBpm: 125 } };
    const rows = await find(query),
      facets = await s.search.countFacets(await s.search.searchFor(query, person));
    expect(await s.search.countLoops(await s.search.searchFor(query, person))).toBe(rows.length);
    expect(facets.kind.reduce((sum, each) => sum + each.count, 0)).toBe(rows.length);
    // Its own range does not hide the rest of the tempo chart.
    expect(facets.tempo.reduce((sum, each) => sum + each.count, 0)).toBeGreaterThan(rows.length);
  });
  test('what has no single key is found as that, counted, and not moved by any project’s key', async () => {
    const [found] = (await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, words: 'long tone' }, person, null), 0)).rows;
    expect(found.source.key).not.toBeNull();
    expect(await find({ chosen: { key: ['no'] } })).toEqual([]);
    await s.words.correctFact(found.id, { attribute: 'key', value: 'no-single-key' }, person);
    expect(await find({ chosen: { key: ['no'] } })).toEqual(['Long Tone A.wav']);
    expect(await find({ words: 'no single key' })).toEqual(['Long Tone A.wav']);
    expect(await find({ chosen: { key: ['un'] } })).not.toContain('Long Tone A.wav');
    expect((await s.search.countFacets(await s.search.searchFor(emptyQuery, person))).key.find(({ value }) => value === 'no')?.count).toBe(
      1,
    );
    const [now] = (await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, chosen: { key: ['no'] } }, person, null), 0)).rows;
    expect(now.source).toMatchObject({ key: null, pitched: true });
    expect(
      fitLoop((await s.search.findRowsById([now.id], person))[0].source, {
        tempoBpm: 120,
        key: { tonic: 2, mode: 'minor' },
        followTempo: true,
        followKey: true,
      }).shiftSemitones,
    ).toBe(0);
    await s.words.withdrawCorrection(found.id, 'key', person);
    expect(await find({ chosen: { key: ['no'] } })).toEqual([]);
  });
  test('sorting by every column, by fit too, and favourites per person', async () => {
    const everything = (await find({})).length,
      byColumn = {
        added: (row: LoopCard) => row.addedAt,
        title: (row: LoopCard) => row.title,
        instrument: ({ source }: LoopCard) => source.family && `${source.family} ${source.instrument}`,
        tempo: ({ source }: LoopCard) => source.tempoBpm,
        key: ({ source }: LoopCard) => source.key && source.key.tonic * 2 + (source.key.mode === 'minor' ? 1 : 0),
        bars: (row: LoopCard) => row.bars,
        length: (row: LoopCard) => row.lengthSeconds,
        loudness: ({ source }: LoopCard) => source.loudnessLufs,
        pack: (row: LoopCard) => row.packName,
        kind: ({ source }: LoopCard) => source.kind,
        // The better it fits the higher it stands.
        fit: ({ source }: LoopCard) => coarseScore(source, { tempoBpm: 120, key: null }),
      };
    for (const [sort, valueOf] of Object.entries(byColumn) as [SortColumn, (row: LoopCard) => string | number | null][])
      for (const descending of [true, false]) {
        const { rows } = await s.search.findLoops(
            await s.search.searchFor({ ...emptyQuery, sort, descending }, person, { id: 1, tempoBpm: 120, key: null }),
            0,
          ),
          values = rows.map(valueOf),
          known = values.filter((value) => value !== null);
        expect(rows).toHaveLength(everything);
        // What is not known comes last either way.
        expect(values.slice(known.length).every((value) => value === null)).toBe(true);
        known.slice(1).forEach((value, k) => {
          const rises = typeof value === 'string' ? value.localeCompare(String(known[k]), 'en') : value - Number(known[k]);
          expect(descending ? -rises : rises).toBeGreaterThanOrEqual(0);
        });
      }
    expect((await find({ sort: 'fit', descending: true }))[0]).toMatch(/120 bpm/);
    const { rows } = await s.search.findLoops(await s.search.searchFor(emptyQuery, person, null), 0);
    await s.loops.setFavourite(person, rows[0].id, true);
    await s.loops.setFavourite(person, rows[0].id, true);
    expect(await find({ favourites: true })).toEqual([rows[0].fileName]);
    const other = await s.people.addPerson('Bo Tarn', 'another password', person);
    expect(other.ok && (await s.search.countLoops(await s.search.searchFor({ ...emptyQuery, favourites: true }, other.id)))).toBe(0);
    await s.loops.archiveLoops([rows[0].id], true, person);
    expect((await find({})).length).toBe(everything - 1);
    await s.loops.archiveLoops([rows[0].id], false, person);
    expect((await find({})).length).toBe(everything);
  });
  test('what a person calls it is found: tags, a corrected instrument, a corrected key', async () => {
    const { rows } = await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, words: 'groove' }, person, null), 0),
      { id } = rows[0];
    await s.loops.setTag(id, 'rainy', true, person);
    expect(await find({ words: 'rainy' })).toEqual(['Groove 120 bpm.wav']);
    await s.loops.setTag(id, 'rainy', false, person);
    expect(await find({ words: 'rainy' })).toEqual([]);
    await s.words.correctFact(id, { attribute: 'instrument', value: 'shaker' }, person);
    expect(await find({ words: 'shaker' })).toEqual(['Groove 120 bpm.wav']);
    expect(await find({ chosen: { instrument: ['shaker'] } })).toEqual(['Groove 120 bpm.wav']);
    await s.words.correctFact(id, { attribute: 'key', value: { tonic: 6, mode: 'minor' } }, person);
    expect(await find({ words: 'f♯ minor' })).toEqual(['Groove 120 bpm.wav']);
    expect(await find({ chosen: { key: ['6m'] } })).toEqual(['Groove 120 bpm.wav']);
    expect(await find({ chosen: { key: ['6M'] } })).toEqual([]);
    for (const attribute of ['instrument', 'key'] as const) await s.words.withdrawCorrection(id, attribute, person);
    expect(await find({ words: 'shaker' })).toEqual([]);
  });
  test('an archived pack is gone from the list with all its loops, and comes back with them', async () => {
    const everything = (await find({})).length,
      [pack] = await s.packs.packNames();
    await s.packs.archivePack(pack.id, true, person);
    expect(await find({})).toEqual([]);
    expect((await s.packs.listPacks()).length).toBe(0);
    expect((await s.packs.listPacks(true)).map(({ name }) => name)).toEqual(['Loft']);
    await s.packs.archivePack(pack.id, false, person);
    expect((await find({})).length).toBe(everything);
    const [line] = await s.packs.listPacks();
    expect(line).toMatchObject({ name: 'Loft', vendor: 'Quay Street Keys', addedBy: 'Ada Quill' });
    expect(line.loops + line.oneShots).toBe(everything);
    expect(line.families.reduce((sum, { count }) => sum + count, 0)).toBe(everything);
  });
  test('lists bring no hits; a loop by its number brings them', async () => {
    const [card] = (await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, words: 'groove' }, person, null), 0)).rows,
      [row] = await s.search.findRowsById([card.id], person);
    expect(card.source).not.toHaveProperty('onsetFrames');
    expect(card.source).not.toHaveProperty('beatFrames');
    expect(row.source.onsetFrames.length).toBeGreaterThan(8);
    expect(row).toMatchObject(card);
  });
});

describe('the line of words and structure', () => {
  const find = async (
    words: string,
    project: { id: number; tempoBpm: number; key: { tonic: number; mode: 'major' | 'minor' } | null } | null = null,
  ) =>
    (
      await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, words, sort: 'title', descending: false }, person, project), 0)
    ).rows.map((row) => row.fileName);
  let ids: Map<string, number>;
  beforeAll(async () => {
    const { lines } = await importAll(library, 'Café Ночь', [
      ['Shaker dry 96 bpm.wav', wav(beats(96, 8))],
      ['Vox hum 101 bpm.wav', wav(beats(101, 8))],
      ['Crème pad 140 bpm.wav', wav(beats(140, 8))],
    ]);
    ids = new Map(lines.map(({ path, loopId }) => [path, loopId as number]));
    const say = (path: string, attribute: 'key' | 'instrument', value: unknown) =>
      s.words.correctFact(ids.get(path) as number, { attribute, value } as never, person);
    await say('Shaker dry 96 bpm.wav', 'instrument', 'shaker');
    await say('Shaker dry 96 bpm.wav', 'key', 'unpitched');
    await say('Vox hum 101 bpm.wav', 'instrument', 'voice');
    await say('Vox hum 101 bpm.wav', 'key', { tonic: 9, mode: 'minor' });
    await say('Crème pad 140 bpm.wav', 'key', { tonic: 2, mode: 'major' });
  });
  const inC = { id: 1, tempoBpm: 100, key: { tonic: 0, mode: 'major' as const } };

  test('accents, case and script are the same on both sides', async () => {
    for (const words of ['cafe', 'CAFÉ', 'ночь', 'НОЧЬ']) expect(await find(words)).toHaveLength(3);
    expect(await find('creme')).toEqual(['Crème pad 140 bpm.wav']);
    expect(await find('夜')).toEqual([]);
  });
  test('typing errors are forgiven where nothing begins so, and said', async () => {
    expect(await find('shkaer')).toEqual(['Shaker dry 96 bpm.wav']);
    expect([...(await s.search.searchFor({ ...emptyQuery, words: 'shkaer' }, person)).context.meant]).toEqual([['shkaer', ['shaker']]]);
    // What begins a word is no error.
    expect([...(await s.search.searchFor({ ...emptyQuery, words: 'shak' }, person)).context.meant]).toEqual([]);
  });
  test('an instrument is found by its other names', async () => {
    expect(await find('vocals cafe')).toEqual(['Vox hum 101 bpm.wav']);
    expect(await find('gesang cafe')).toEqual(['Vox hum 101 bpm.wav']);
  });
  test('tempos, lengths, kinds and minus', async () => {
    expect(await find('cafe 90-110')).toEqual(['Shaker dry 96 bpm.wav', 'Vox hum 101 bpm.wav']);
    expect(await find('cafe -90-110')).toEqual(['Crème pad 140 bpm.wav']);
    expect(await find('cafe -shaker')).toEqual(['Crème pad 140 bpm.wav', 'Vox hum 101 bpm.wav']);
    expect(await find('cafe is:notes')).toEqual([]);
    expect(await find('cafe is:audio 2 bars')).toHaveLength(3);
    expect(await find('cafe by:ada')).toHaveLength(3);
    expect(await find('cafe by:nobody')).toEqual([]);
    expect(await find('cafe added:1d')).toHaveLength(3);
  });
  test('by what it takes to fit the project: stretch with half and double time, shift with the relative, unpitched always in', async () => {
    expect(await find('cafe ±5%', inC)).toEqual(['Shaker dry 96 bpm.wav', 'Vox hum 101 bpm.wav']);
    expect(await find('cafe ±5%', { ...inC, tempoBpm: 69 })).toEqual(['Crème pad 140 bpm.wav']);
    expect(await find('cafe key:relative', inC)).toEqual(['Shaker dry 96 bpm.wav', 'Vox hum 101 bpm.wav']);
    expect(await find('cafe key:same', inC)).toEqual(['Shaker dry 96 bpm.wav']);
    expect(await find('cafe ±2st', inC)).toHaveLength(3);
    expect(await find('cafe ±1st', inC)).toEqual(['Shaker dry 96 bpm.wav', 'Vox hum 101 bpm.wav']);
    expect(await find('cafe Am')).toEqual(['Vox hum 101 bpm.wav']);
    // Without a project in the room nothing is said to fit it.
    expect(await find('cafe ±5%')).toEqual([]);
  });
  test('facets go with it, and all that it finds is chosen by it', async () => {
    const facets = await s.search.countFacets(await s.search.searchFor({ ...emptyQuery, words: 'cafe ±5%' }, person, inC));
    expect(facets.kind.reduce((sum, { count }) => sum + count, 0)).toBe(2);
    expect(await s.search.countLoops(await s.search.searchFor({ ...emptyQuery, words: 'cafe ±5%' }, person, inC))).toBe(2);
  });
});
