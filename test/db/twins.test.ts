import { encodeAudio } from '../../demo/encode/encode';
import { renderAudio } from '../../demo/render';
import { offeredPacks } from '../../exchange/catalogue';
import { importAll, openLibrary, until, type Library } from './services';

const load = () => import('~server/services/twins.server');
let library: Library, twins: Awaited<ReturnType<typeof load>>;
const ids = new Map<string, number>();
const spec = (k: number) => offeredPacks[0].loops[k].spec,
  quieter = (gain: number, pcm = renderAudio(spec(6))) => ({
    ...pcm,
    channels: pcm.channels.map((plane) => plane.map((value) => value * gain)),
  });

beforeAll(async () => {
  library = await openLibrary();
  twins = await load();
  const bass = renderAudio(spec(6)),
    // Siblings: the same player, tempo, key and length, another line; and another instrument.
    sibling = renderAudio({
      ...spec(6),
      path: `${spec(6).path} sibling`,
      pattern: spec(6).pattern + 1,
      progression: spec(6).progression + 1,
    }),
    files = async (names: readonly (readonly [string, typeof bass, 'wav16' | 'flac' | 'ogg'])[]) =>
      Promise.all(names.map(async ([name, pcm, format]) => [name, Buffer.from(await encodeAudio(pcm, format, name, false))] as const));
  for (const [pack, list] of [
    [
      'One vendor',
      await files([
        ['bass.wav', bass, 'wav16'],
        ['other line.wav', sibling, 'wav16'],
        ['keys.wav', renderAudio(spec(10)), 'wav16'],
      ]),
    ],
    [
      'Another vendor',
      await files([
        ['coded.ogg', bass, 'ogg'],
        ['softer.flac', quieter(0.4), 'flac'],
      ]),
    ],
  ] as const) {
    const { lines } = await importAll(library, pack, list);
    for (const { path, loopId } of lines) if (loopId) ids.set(path, loopId);
  }
  await until(
    async () => (await library.s.db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'find-twins'")).length === 0,
  );
}, 120_000);
afterAll(() => library.close());

const pairOf = async (one: number, other: number): Promise<number> => {
  const wanted = [one, other].sort().join(),
    pair = (await twins.listTwins(library.person, 50)).find(({ first, second }) => [first.id, second.id].sort().join() === wanted);
  if (!pair) throw new Error('no such pair');
  return pair.id;
};
const pairs = async () =>
  (await twins.listTwins(library.person, 50)).map(({ first, second }) => [first.fileName, second.fileName].sort().join(' = ')).sort();

test('the same sound is known again lossy, softer and in another format; siblings are not taken for it', async () => {
  expect(await pairs()).toEqual(['bass.wav = coded.ogg', 'bass.wav = softer.flac', 'coded.ogg = softer.flac']);
});
test('one of two is kept with what the other had; taken back, both are as they were', async () => {
  const kept = ids.get('bass.wav') as number,
    other = ids.get('coded.ogg') as number,
    { s, person } = library;
  await s.loops.setTag(other, 'dusky', true, person);
  await s.loops.setFavourite(person, other, true);
  await s.words.correctFact(other, { attribute: 'tempo', value: 42 }, person);
  const pair = await pairOf(kept, other);
  expect(await twins.mergeTwins(pair, kept, person)).toBeNull();
  expect(await s.loops.findLoop(kept, person)).toMatchObject({ tags: ['dusky'], row: { favourite: true, source: { tempoBpm: 42 } } });
  expect(await s.loops.findLoop(other, person)).toMatchObject({ archived: true });
  // What is archived waits for nobody.
  expect(await pairs()).toEqual(['bass.wav = softer.flac']);
  expect(await twins.mergeTwins(pair, kept, person)).toMatch(/decided already/);
  // Said to be two by somebody who still sees them, it would be forgotten how to undo that.
  expect(await twins.keepApart(pair, person)).toMatch(/decided already/);
  expect(await twins.undoTwins(pair, person)).toBe(true);
  expect(await twins.undoTwins(999_999, person)).toBe(false);
  expect(await s.loops.findLoop(kept, person)).toMatchObject({ tags: [], row: { favourite: false } });
  expect((await s.loops.findLoop(kept, person))?.row.source.tempoBpm).not.toBe(42);
  expect(await s.loops.findLoop(other, person)).toMatchObject({ archived: false, tags: ['dusky'] });
  expect(await twins.countTwins()).toBe(3);
});
test('stars, a note and places in collections go to the one that is kept; taken back, what was said since stays', async () => {
  const kept = ids.get('bass.wav') as number,
    other = ids.get('softer.flac') as number,
    { s, person } = library,
    { rate, ratingsOf } = await import('~server/services/ratings.server'),
    { setCollected } = await import('~server/services/collections.server'),
    added = await s.people.addPerson('Bo Tarn', 'another password', person);
  if (!added.ok) throw new Error('not added');
  const collect = (loopId: number, name: string) =>
      s.db.sequelize.transaction((transaction) => setCollected({ name, personId: person, loopId, isWanted: true }, transaction)),
    laidIn = async (loopId: number) =>
      (
        await s.db.selectRows<{ laid: string }>(
          "select c.name || ' ' || cl.position as laid from collection_loops cl join collections c on c.id = cl.collection_id where cl.loop_id = $1 order by 1",
          [loopId],
        )
      ).map(({ laid }) => laid),
    ratings = async (loopId: number) =>
      (await ratingsOf(loopId, person)).map(({ person: name, stars, note }) => `${name} ${stars} ${note}`).sort();
  await rate(person, other, { stars: 4, note: 'for the drop' });
  await rate(added.id, other, { stars: 2 });
  for (const loopId of [ids.get('keys.wav') as number, other]) await collect(loopId, 'Low end');
  const pair = await pairOf(kept, other);
  expect(await twins.mergeTwins(pair, kept, person)).toBeNull();
  expect(await ratings(kept)).toEqual(['Ada Quill 4 for the drop', 'Bo Tarn 2 ']);
  expect(await laidIn(kept)).toEqual(['Low end 1']);
  await rate(person, kept, { stars: 5 });
  await twins.undoTwins(pair, person);
  expect(await ratings(kept)).toEqual(['Ada Quill 5 for the drop']);
  expect(await ratings(other)).toEqual(['Ada Quill 4 for the drop', 'Bo Tarn 2 ']);
  expect([await laidIn(kept), await laidIn(other)]).toEqual([[], ['Low end 1']]);
});
test('three that are merged in a ring at once leave one; what somebody archived anew since stays archived', async () => {
  const [bass, coded, softer] = ['bass.wav', 'coded.ogg', 'softer.flac'].map((name) => ids.get(name) as number),
    { s, person } = library,
    merges = await Promise.all(
      [
        [bass, coded],
        [coded, softer],
        [softer, bass],
      ].map(async ([kept, other]) => ({ pair: await pairOf(kept, other), kept, other })),
    ),
    answers = await Promise.all(merges.map(({ pair, kept }) => twins.mergeTwins(pair, kept, person))),
    isArchived = async (id: number) => (await s.loops.findLoop(id, person))?.archived;
  expect(answers.filter((answer) => answer !== null)).toEqual([expect.stringMatching(/was archived/)]);
  expect((await Promise.all([bass, coded, softer].map(isArchived))).filter(Boolean)).toHaveLength(2);
  const done = merges.filter((_, k) => answers[k] === null);
  await s.loops.archiveLoops([done[0].other], false, person);
  await s.loops.archiveLoops([done[0].other], true, person);
  for (const { pair } of done) await twins.undoTwins(pair, person);
  expect(await Promise.all(done.map(({ other }) => isArchived(other)))).toEqual([true, false]);
  await s.loops.archiveLoops([done[0].other], false, person);
  expect(await twins.countTwins()).toBe(3);
});
test('a pair that a person kept apart is not asked for again', async () => {
  const [pair] = await twins.listTwins(library.person, 1);
  expect(await twins.keepApart(pair.id, library.person)).toBeNull();
  expect(await twins.countTwins()).toBe(2);
  const [{ pack }] = await library.s.db.selectRows<{ pack: number }>('select pack_id as pack from loops where id = $1', [pair.first.id]);
  await twins.findTwins(pack);
  expect(await twins.countTwins()).toBe(2);
});
