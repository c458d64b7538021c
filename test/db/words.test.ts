import type { Attribute } from '~core/analysis/facts';
import type { Change } from '~core/library/change';
import { chord } from '../generators/signals';
import { barsAreTold, beats, importAll, openLibrary, until, wav, type Library } from './services';

const loadChanges = () => import('~server/services/changes/changes.server');
let library: Library, changes: Awaited<ReturnType<typeof loadChanges>>, bert: number, ids: number[];
beforeAll(async () => {
  library = await openLibrary();
  changes = await loadChanges();
  const added = await library.s.people.addPerson('Bert Quill', 'a long password', null);
  bert = added.ok ? added.id : 0;
  const { lines } = await importAll(
    library,
    'Spoken of',
    [90, 100, 110].map((tempo) => [`Loop ${tempo} bpm.wav`, wav(beats(tempo, 16))] as const),
  );
  ids = [...lines].sort((a, b) => a.path.localeCompare(b.path)).map(({ loopId }) => loopId as number);
});
afterAll(() => library.close());

const inForce = async (id: number, attribute?: Attribute) =>
  (
    await library.s.db.selectRows<{ said: string }>(
      `select f.attribute || ' ' || (f.value #>> '{}') || ' ' || p.name as said from facts f join people p on p.id = f.person_id
       where f.loop_id = $1 and f.source = 'person' and f.superseded_at is null ${attribute ? 'and f.attribute = $2' : ''} order by f.attribute, f.id`,
      attribute ? [id, attribute] : [id],
    )
  ).map(({ said }) => said);
const source = async (id: number) => (await library.s.loops.findLoop(id, library.person))?.row.source;
async function say(id: number, attribute: 'tempo' | 'beats', value: number, personId = library.person): Promise<number> {
  const word = await library.s.words.correctFact(id, { attribute, value }, personId);
  if (typeof word === 'string') throw new Error(word);
  return word;
}
const silence = async (id: number) => {
  for (const attribute of ['tempo', 'beats'] as const) await library.s.words.withdrawCorrection(id, attribute, library.person);
};

test('a word that is taken back gives way to the one that it ended, as theirs who said that', async () => {
  const [id] = ids;
  await say(id, 'tempo', 45, bert);
  const word = await say(id, 'tempo', 180);
  expect(await inForce(id)).toEqual(['tempo 180 Ada Quill']);
  await library.s.words.takeBackWords([word], library.person);
  expect(await inForce(id)).toEqual(['tempo 45 Bert Quill']);
  expect((await source(id))?.tempoBpm).toBe(45);
  // Once more does nothing.
  await library.s.words.takeBackWords([word], library.person);
  expect(await inForce(id)).toEqual(['tempo 45 Bert Quill']);
  await silence(id);
});
test('what was withdrawn holds again as theirs who said it, unless somebody has spoken since', async () => {
  const [id] = ids,
    { withdrawCorrection, bringBackWords } = library.s.words;
  await say(id, 'tempo', 45, bert);
  const withdrawn = await withdrawCorrection(id, 'tempo', library.person);
  expect([withdrawn.length, await inForce(id)]).toEqual([1, []]);
  expect((await source(id))?.tempoBpm).toBe(100);
  await bringBackWords(withdrawn, library.person);
  expect(await inForce(id)).toEqual(['tempo 45 Bert Quill']);
  expect((await source(id))?.tempoBpm).toBe(45);
  // Another word on the same fact stays, and one that a later word has ended is not let loose beside it.
  const again = await withdrawCorrection(id, 'tempo', library.person);
  await say(id, 'tempo', 180);
  await bringBackWords(again, bert);
  expect(await inForce(id)).toEqual(['tempo 180 Ada Quill']);
  // Of several on one fact one holds.
  const all = [...again, ...(await withdrawCorrection(id, 'tempo', bert))];
  await bringBackWords([...all, 999_999_999], bert);
  expect(await inForce(id)).toEqual(['tempo 180 Ada Quill']);
  await silence(id);
});
test('what another has said since stays when a word is taken back', async () => {
  const [id] = ids,
    word = await say(id, 'tempo', 180);
  await say(id, 'tempo', 60, bert);
  await library.s.words.takeBackWords([word], library.person);
  expect(await inForce(id)).toEqual(['tempo 60 Bert Quill']);
  await silence(id);
});
test('beats that a tempo unsaid are said again without it, but not beside another tempo', async () => {
  const [id] = ids;
  await say(id, 'beats', 8, bert);
  const first = await say(id, 'tempo', 180);
  expect(await inForce(id)).toEqual(['tempo 180 Ada Quill']);
  await library.s.words.takeBackWords([first], library.person);
  expect(await inForce(id)).toEqual(['beats 8 Bert Quill']);
  const second = await say(id, 'tempo', 180);
  await say(id, 'tempo', 90, bert);
  await library.s.words.takeBackWords([second], library.person);
  expect(await inForce(id)).toEqual(['tempo 90 Bert Quill']);
  await silence(id);
});
test('of two who say something at once one is the later, and has the word', async () => {
  const [id] = ids;
  await Promise.all([60, 70, 80, 120].map((tempo, k) => say(id, 'tempo', tempo, k % 2 ? bert : library.person)));
  const [said, ...more] = await inForce(id);
  expect(more).toEqual([]);
  expect(said).toMatch(new RegExp(`^tempo ${(await source(id))?.tempoBpm} `));
  await silence(id);
});

async function change(asked: Change): Promise<number> {
  const made = await changes.makeChange({ ids }, asked, { id: library.person, name: 'Ada Quill', role: 'keeper', projectId: null });
  if (typeof made === 'string') throw new Error(made);
  await ended(made.id, 'done');
  return made.id;
}
async function ended(id: number, state: string): Promise<void> {
  expect(
    await until(
      async () =>
        (await library.s.db.selectRows<{ state: string }>('select state from loop_changes where id = $1', [id]))[0].state === state,
    ),
  ).toBe(true);
}
async function undo(id: number): Promise<void> {
  expect(await changes.undoChange(id, { id: library.person, name: 'Ada Quill', role: 'keeper', projectId: null })).toBeNull();
  await ended(id, 'undone');
}
test('a change to many that is taken back leaves what somebody has said or done since', async () => {
  const [first, second, third] = ids;
  await say(second, 'tempo', 50, bert);
  const doubled = await change({ kind: 'tempo-times', factor: 2 });
  expect(await inForce(second)).toEqual(['tempo 100 Ada Quill']);
  await say(first, 'tempo', 45, bert);
  await undo(doubled);
  expect(await inForce(first)).toEqual(['tempo 45 Bert Quill']);
  expect(await inForce(second)).toEqual(['tempo 50 Bert Quill']);
  expect(await inForce(third)).toEqual([]);
  const heard = await change({ kind: 'fact', attribute: 'tempo', value: null });
  expect(await inForce(first)).toEqual([]);
  await say(second, 'tempo', 200, bert);
  await undo(heard);
  expect([await inForce(first), await inForce(second)]).toEqual([['tempo 45 Bert Quill'], ['tempo 200 Bert Quill']]);
  const titled = await change({ kind: 'title', pattern: 'Take {n}' });
  await library.s.loops.renameLoop(third, 'Keeper of three', bert);
  await undo(titled);
  const titles = await Promise.all(ids.map(async (id) => (await library.s.loops.findLoop(id, library.person))?.row.title));
  expect(titles).toEqual([expect.stringMatching(/^Loop/), expect.stringMatching(/^Loop/), 'Keeper of three']);
  for (const id of ids) await silence(id);
});
test('a tag comes back as theirs who had put it; what somebody has put on since is not taken away', async () => {
  const [first, second] = ids,
    whose = async (id: number) =>
      (
        await library.s.db.selectRows<{ tag: string }>(
          `select t.name || ' ' || p.name as tag from loop_tags lt join tags t on t.id = lt.tag_id join people p on p.id = lt.person_id where lt.loop_id = $1`,
          [id],
        )
      ).map(({ tag }) => tag);
  await library.s.loops.setTag(first, 'Brine', true, bert);
  const put = await change({ kind: 'tag', name: 'brine', isWanted: true });
  expect([await whose(first), await whose(second)]).toEqual([['Brine Bert Quill'], ['Brine Ada Quill']]);
  await library.s.loops.setTag(second, 'Brine', false, bert);
  await library.s.loops.setTag(second, 'Brine', true, bert);
  await undo(put);
  expect([await whose(first), await whose(second)]).toEqual([['Brine Bert Quill'], ['Brine Bert Quill']]);
  const taken = await change({ kind: 'tag', name: 'Brine', isWanted: false });
  expect([await whose(first), await whose(second)]).toEqual([[], []]);
  await undo(taken);
  expect([await whose(first), await whose(second)]).toEqual([['Brine Bert Quill'], ['Brine Bert Quill']]);
});
test('a collection has its order again, also under another name; what was archived anew since stays so', async () => {
  const [first, second, third] = ids,
    collections = await import('~server/services/collections.server'),
    put = await change({ kind: 'collection', name: 'For the deck', isWanted: true }),
    [{ id }] = (await collections.listCollections(library.person)).filter(({ name }) => name === 'For the deck');
  await collections.orderCollected(id, [third, first, second]);
  const taken = await change({ kind: 'collection', name: 'For the deck', isWanted: false });
  await collections.changeCollection(id, library.person, { name: 'For the galley' });
  expect(await collections.collectedIds(id)).toEqual([]);
  await undo(taken);
  expect(await collections.collectedIds(id)).toEqual([third, first, second]);
  await undo(put);
  expect(await collections.collectedIds(id)).toEqual([]);
  expect((await collections.listCollections(library.person)).map(({ name }) => name)).not.toContain('For the deck');

  const archived = async () =>
      (
        await library.s.db.selectRows<{ id: number }>('select id from loops where id = any($1::int[]) and archived_at is not null', [ids])
      ).map((row) => row.id),
    away = await change({ kind: 'archive' });
  expect(await archived()).toHaveLength(3);
  await library.s.loops.archiveLoops([second], false, bert);
  await library.s.loops.archiveLoops([second], true, bert);
  await undo(away);
  expect(await archived()).toEqual([second]);
  await library.s.loops.archiveLoops([second], false, bert);
});
test('a change of before words were numbered is taken back too', async () => {
  const [id] = ids,
    changed = await change({ kind: 'fact', attribute: 'tempo', value: '75' });
  await library.s.db.selectRows('update changed_loops set before = $2 where change_id = $1 and loop_id = $3', [
    changed,
    JSON.stringify({ words: { tempo: { value: 55 }, beats: null } }),
    id,
  ]);
  await undo(changed);
  expect(await inForce(id)).toEqual(['tempo 55 Ada Quill']);
  await silence(id);
});
test('twins that were made one: opened again, what others have said since of the one that was kept stays', async () => {
  const [kept, other] = ids,
    twins = await import('~server/services/twins.server');
  await say(other, 'tempo', 55, bert);
  const [{ id: pair }] = await library.s.db.selectRows<{ id: number }>(
    'insert into sound_twins (first_id, second_id, differing) values ($1, $2, 0.1) returning id',
    [Math.min(kept, other), Math.max(kept, other)],
  );
  expect(await twins.mergeTwins(pair, kept, library.person)).toBeNull();
  expect(await inForce(kept)).toEqual(['tempo 55 Bert Quill']);
  await say(kept, 'tempo', 110, library.person);
  await twins.undoTwins(pair, library.person);
  expect(await inForce(kept)).toEqual(['tempo 110 Ada Quill']);
  for (const id of ids) await silence(id);
});
test('bars are told by what is said when they are done, not by what was said when they were begun', async () => {
  const { s } = library,
    chords = [57, 53, 48, 55].flatMap((root) => [...chord([root, root + 4, root + 7], 2)]),
    { lines } = await importAll(library, 'Held', [['Pad 120 bpm.wav', wav(Float32Array.from(chords))]]),
    id = lines[0].loopId as number,
    bars = async () => (await s.loops.findLoop(id, library.person))?.analysis?.bars.length;
  expect(await barsAreTold(s)).toBe(true);
  expect(await bars()).toBe(4);
  let telling: Promise<void> = Promise.resolve();
  await s.db.sequelize.transaction(async (transaction) => {
    await s.facts.lockLoop(id, transaction);
    telling = s.reanalysis.tellBarsAnew(id);
    // It has heard the bars and waits to write them.
    expect(
      await until(
        async () =>
          (await s.db.selectRows("select 1 from pg_locks where not granted and locktype in ('transactionid', 'tuple')")).length > 0,
      ),
    ).toBe(true);
    await s.words.putWord(id, { attribute: 'tempo', value: 60 }, bert, transaction);
    await s.facts.chooseAgain(id, transaction);
    // Queued with what is said, and not before it is kept.
    await s.facts.queueBars(id, transaction);
    expect(await s.db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'tell-bars-anew'")).toEqual([]);
    await s.db.sequelize.query('delete from graphile_worker._private_jobs where key = $1', { bind: [`tell-bars-anew-${id}`], transaction });
  });
  await telling;
  expect(await bars()).toBe(2);
});
