import { asIndexed, indexOf } from '../../test/generators/indexed';
import { generateLoops, generatedPack } from '../../test/generators/library-rows';
import { usualWeights } from './fit/weights';
import { Finder, type FindContext } from './index/finder';
import type { IndexedLoop } from './index/indexed-loop';
import { emptyQuery } from './query';

/** What somebody types, and what they mean by it. */
type Written = readonly [line: string, isMeant: (loop: IndexedLoop) => boolean];

const generated = [...generateLoops(14_000, 21)],
  rows = generated.map(asIndexed),
  byId = new Map(rows.map((row) => [row.id, row])),
  finder = new Finder(indexOf(generated)),
  context: FindContext = {
    project: { tempoBpm: 120, key: { tonic: 5, mode: 'minor' } },
    outside: {},
    nowMs: Date.UTC(2026, 10, 1),
    scene: null,
    sceneKey: '',
    weights: usualWeights,
    asked: null,
    heard: { ids: [], atMs: [] },
  };

const is = (instrument: string) => (loop: IndexedLoop) => loop.instrument === instrument,
  family = (name: string) => (loop: IndexedLoop) => loop.family === name,
  titled = (word: string) => (loop: IndexedLoop) => loop.searchText.includes(word),
  both =
    (...tests: ((loop: IndexedLoop) => boolean)[]) =>
    (loop: IndexedLoop) =>
      tests.every((each) => each(loop)),
  key = (tonic: number, mode: 'major' | 'minor') => (loop: IndexedLoop) => loop.keyTonic === tonic && loop.keyMode === mode,
  at = (from: number, to: number) => (loop: IndexedLoop) => loop.tempoBpm !== null && loop.tempoBpm >= from && loop.tempoBpm <= to,
  has = (facet: string, value: string) => (loop: IndexedLoop) => (loop.facets[facet] as readonly string[]).includes(value);

const instruments: readonly (readonly [word: string, beginning: string, error: string, id: string])[] = [
    ['shaker', 'shak', 'shkaer', 'shaker'],
    ['kick', 'kic', 'kikc', 'kick'],
    ['snare', 'snar', 'snrae', 'snare'],
    ['tambourine', 'tambo', 'tamborine', 'tambourine'],
    ['cowbell', 'cowb', 'cowbel', 'cowbell'],
    ['cajon', 'cajo', 'cajno', 'cajon'],
    ['djembe', 'djem', 'djmebe', 'djembe'],
    ['darbuka', 'darb', 'darbuak', 'darbuka'],
    ['gong', 'gon', 'gogn', 'gong'],
    ['clap', 'cla', 'calp', 'clap'],
    ['riser', 'rise', 'risre', 'riser'],
    ['maracas', 'marac', 'maraacs', 'maracas'],
    ['surdo', 'surd', 'surod', 'surdo'],
    ['timpani', 'timp', 'tmipani', 'timpani'],
  ],
  written: readonly Written[] = [
    ...instruments.flatMap(([word, beginning, error, id]): Written[] => [
      [word, is(id)],
      [beginning, is(id)],
      [error, is(id)],
      [`instrument:${word}`, is(id)],
      [word.toUpperCase(), is(id)],
    ]),
    // Other names.
    ['hh', is('hats')],
    ['hihat', is('hats')],
    ['bd', is('kick')],
    ['bass drum', is('kick')],
    ['egg', is('shaker')],
    ['palmas', is('clap')],
    ['pandeiro', is('tambourine')],
    ['bongos', is('bongo')],
    ['rim shot', is('rimshot')],
    ['snr', is('snare')],
    // Words of titles, packs and vendors, whatever their accents and scripts.
    ['warm', titled('warm')],
    ['wram', titled('warm')],
    ['Café', titled('cafe')],
    ['cafe', titled('cafe')],
    ['CAFÉ', titled('cafe')],
    ['дождь', titled('дождь')],
    ['Дождь', titled('дождь')],
    ['夜', titled('夜')],
    ['harbour', titled('harbour')],
    ['harbuor', titled('harbour')],
    ['saltmrash', titled('saltmarsh')],
    ['lantern', titled('lantern')],
    ['lanter', titled('lantern')],
    ['orchrad', titled('orchard')],
    ['pack:saltm', (loop) => /saltmarsh/i.test(loop.packName)],
    ['vendor:ember', (loop) => /ember/i.test(loop.vendor)],
    ['pack:café', (loop) => /café/i.test(loop.packName)],
    ['quarry sessions', both(titled('quarry'), titled('sessions'))],
    ['warm shaker', both(titled('warm'), is('shaker'))],
    ['shaker warm', both(titled('warm'), is('shaker'))],
    ['glass kick', both(titled('glass'), is('kick'))],
    ['hollow snrae', both(titled('hollow'), is('snare'))],
    // Structure.
    ['118-126', at(118, 126)],
    ['118–126 kick', both(at(118, 126), is('kick'))],
    ['120bpm', at(119.5, 120.5)],
    ['Fm', key(5, 'minor')],
    ['F#m', key(6, 'minor')],
    ['key:C', key(0, 'major')],
    ['key:ebmin', key(3, 'minor')],
    ['B♭m', key(10, 'minor')],
    ['f minor', key(5, 'minor')],
    ['4 bars', (loop) => loop.bars === 4],
    ['2-8 bars', (loop) => loop.bars !== null && loop.bars >= 2 && loop.bars <= 8],
    ['is:notes', (loop) => loop.media === 'midi'],
    ['is:audio shaker', both((loop) => loop.media === 'audio', is('shaker'))],
    ['is:one-shot', (loop) => loop.kind === 'one-shot'],
    ['is:phrases', (loop) => loop.kind === 'phrase'],
    ['is:unpitched', (loop) => loop.pitched === false],
    ['is:doubtful', (loop) => loop.isDoubtful],
    ['genre:house', has('genre', 'house')],
    ['genre:jazz', has('genre', 'jazz')],
    ['genre:"drum and bass"', has('genre', 'drum-and-bass')],
    ['genre:hip', has('genre', 'hip-hop')],
    ['character:dry', has('character', 'dry')],
    ['character:bright', has('character', 'bright')],
    ['family:bass', family('bass')],
    ['family:strings', family('strings')],
    ['meter:3/4', (loop) => loop.meter === '3/4'],
    ['meter:7/8', (loop) => loop.meter === '7/8'],
    ['licence:commercial', (loop) => /royalty/i.test(loop.licence)],
    ['licence:uncredited', (loop) => /royalty-free, cleared/i.test(loop.licence)],
    // Turned round, and several at once.
    ['-is:audio', (loop) => loop.media === 'midi'],
    ['shaker -warm', both(is('shaker'), (loop) => !titled('warm')(loop))],
    ['warm -is:loop', both(titled('warm'), (loop) => loop.kind !== 'loop')],
    ['-genre:house family:keys', both(family('keys'), (loop) => !has('genre', 'house')(loop))],
    ['bass Fm 4 bars', both(titled('bass'), key(5, 'minor'), (loop) => loop.bars === 4)],
    [
      'is:loop 90-100 4 bars',
      both(
        (loop) => loop.kind === 'loop',
        at(90, 100),
        (loop) => loop.bars === 4,
      ),
    ],
    [
      '±3%',
      (loop) =>
        loop.tempoBpm !== null &&
        [1, 2, 0.5].some((reading) => Math.abs(Math.log2((loop.tempoBpm! * reading) / 120)) <= Math.log2(1.03) + 1e-6),
    ],
    ['within 3 % kick', both(is('kick'), (loop) => loop.tempoBpm !== null)],
    ['key:same family:keys', (loop) => loop.pitched === false || key(5, 'minor')(loop)],
    ['key:relative family:strings', (loop) => loop.pitched === false || key(5, 'minor')(loop) || key(8, 'major')(loop)],
    [
      '±1st family:guitar',
      (loop) =>
        loop.pitched === false ||
        [4, 5, 6].some((tonic) => key(tonic, 'minor')(loop)) ||
        [7, 8, 9].some((tonic) => key(tonic, 'major')(loop)),
    ],
    ['quiet "stories"', both(titled('quiet'), titled('stories'))],
    ['dust loop', both(titled('dust'), titled('loop'))],
    ['iron one-shot', both(titled('iron'), titled('shot'))],
    ['north is:loop 140-180', both(titled('north'), at(140, 180))],
    ['tight kick loop', both(titled('tight'), is('kick'), (loop) => loop.kind === 'loop')],
    ['rain flute', both(titled('rain'), titled('flute'))],
    ['second gong', both(titled('second'), is('gong'))],
    ['late clap -is:notes', both(titled('late'), is('clap'), (loop) => loop.media === 'audio')],
  ];

test(`${written.length} written queries: what is meant stands first, and among the first five`, () => {
  expect(written.length).toBeGreaterThanOrEqual(150);
  expect(written.filter(([, isMeant]) => !rows.some(isMeant)).map(([line]) => line)).toEqual([]);
  const missed: string[] = [];
  let first = 0,
    five = 0;
  for (const [line, isMeant] of written) {
    const { ids } = finder.ask({ query: { ...emptyQuery, words: line }, context, offset: 0, limit: 5, wants: {} }),
      found = [...ids].map((id) => byId.get(id)).filter((row) => row !== undefined);
    if (found[0] && isMeant(found[0])) first++;
    else
      missed.push(
        `${line} → ${found.length === 0 ? 'nothing' : `${found[0].title}, ${found[0].packName}`} (${rows.filter(isMeant).length} meant)`,
      );
    if (found.some(isMeant)) five++;
  }
  expect({ missed, enough: first / written.length >= 0.95 && five / written.length >= 0.99 }).toEqual({ missed, enough: true });
});
test('the packs of the generated library are of many scripts, so that this means something', () =>
  expect(new Set(Array.from({ length: 10 }, (_, k) => generatedPack(k + 1).name)).size).toBe(10));
