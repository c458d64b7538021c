import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { newClip, newTrack } from '~core/arrangement/tree';
import { emptyQuery } from '~core/search/query';
import { parseSmf } from '~core/formats/smf/parse';
import { parseWav } from '~core/formats/wav/parse';
import { beatToFrame } from '~core/units/time';
import type { HowAsked, MakingsAsked, Sheet } from '~contracts/making';
import { givenMaterial } from './given-material';
import { beats, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number, drums: number, notes: number, projectId: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  ({ drums, notes } = await givenMaterial(library));
  projectId = await s.projects.createProject(
    {
      kind: 'project',
      name: 'Engine Room',
      tempoBpm: 120,
      key: { tonic: 2, mode: 'minor' },
      meter: '4/4',
      masterGainDb: -6,
      sections: [],
      chords: [],
      patterns: [],
      tracks: [
        newTrack({ id: 'd', name: 'Drums', gainDb: -2, clips: [newClip({ id: 'd1', loopId: drums, startBeat: 0, lengthBeats: 16 })] }),
        newTrack({ id: 'n', name: 'Bass', clips: [newClip({ id: 'n1', loopId: notes, startBeat: 8, lengthBeats: 8 })] }),
        newTrack({ id: 'm', name: 'Mute', muted: true, clips: [newClip({ id: 'm1', loopId: drums, startBeat: 0, lengthBeats: 8 })] }),
      ],
    },
    person,
  );
});
afterAll(() => library.close());

const sheet = (name: string, changes: Partial<Sheet> = {}): Sheet => ({
    name,
    kind: 'loop',
    setName: '',
    setRole: null,
    instrument: null,
    genre: [],
    character: [],
    tags: [],
    landingSeconds: null,
    chords: '',
    ...changes,
  }),
  ours = { packId: null, name: 'Saltmarsh Radio, season 2', vendor: 'Saltmarsh Radio', licence: 'ours, within the group' },
  part = (trackIds: readonly string[], changes: Partial<Extract<HowAsked, { kind: 'part' }>> = {}): HowAsked => ({
    kind: 'part',
    projectId,
    as: 'sound',
    asked: { trackIds, clipIds: null, fromBeat: 8, toBeat: 16, tail: 'wrap' },
    ...changes,
  });

/** Has loops made, waits for them, and gives their numbers. */
async function make({ pack, makings }: MakingsAsked): Promise<number[]> {
  // The pack of that name, once it is there.
  const there = (await s.making.ownPacks()).find(({ name }) => name === pack.name),
    ids = await s.making.requestMakings({ pack: { ...pack, packId: pack.packId ?? there?.id ?? null }, makings }, person);
  if (typeof ids === 'string') throw new Error(ids);
  await until(async () => (await s.making.makingsOf(person, ids)).every(({ state }) => state === 'done' || state === 'failed'));
  const made = await s.making.makingsOf(person, ids);
  expect(made.map(({ state }) => state)).toEqual(ids.map(() => 'done'));
  // Some of these give the very same twice, which is told.
  for (const { message } of made) if (message !== null) expect(message).toMatch(/^The very same sound is in the library already, as “/);
  return ids.map((id) => made.find((each) => each.id === id)?.loopId as number);
}
const detailOf = async (loopId: number) => {
  const detail = await s.loops.findLoop(loopId, person);
  if (!detail) throw new Error('no loop');
  return detail;
};

test('a part of a project is a loop of the library: its length to the frame, its facts exactly, with what it was made of', async () => {
  const [loopId] = await make({
      pack: ours,
      makings: [
        {
          sheet: sheet('Engine bars', { instrument: 'drum-kit', setRole: 'full', tags: ['ferry'], setName: 'Engine' }),
          how: part(['d', 'n', 'm']),
        },
      ],
    }),
    detail = await detailOf(loopId),
    { source } = detail.row;
  expect(detail.row).toMatchObject({ title: 'Engine bars', packName: ours.name, vendor: ours.vendor, setStem: 'Engine', bars: 2 });
  expect(source).toMatchObject({ tempoBpm: 120, beats: 8, kind: 'loop', startFrame: 0, soundFrames: beatToFrame(8, 120, 44100) });
  for (const attribute of ['tempo', 'beats', 'meter', 'start'] as const)
    expect([attribute, detail.chosen[attribute]?.source, detail.chosen[attribute]?.confidence]).toEqual([attribute, 'project', 1]);
  expect(detail.chosen.instrument).toMatchObject({ value: 'drum-kit', source: 'person' });
  expect(detail.chosen.setRole).toMatchObject({ value: 'full', source: 'person' });
  expect(detail.tags).toEqual(['ferry']);
  // What is muted is not in it.
  expect(detail.made?.sources.map((each) => each.loopId).sort()).toEqual([drums, notes].sort());
  const how = detail.made?.how;
  expect(
    how?.kind === 'part' && how.part.tracks.map(({ name, gainDb, clips }) => [name, gainDb, clips[0].startBeat, clips[0].lengthBeats]),
  ).toEqual([
    ['Drums', -2, 0, 8],
    ['Bass', 0, 0, 8],
  ]);
  // A person may know better still, and the word of the project comes back when that is taken back.
  await s.words.correctFact(loopId, { attribute: 'tempo', value: 60 }, person);
  expect((await detailOf(loopId)).row.source.tempoBpm).toBe(60);
  await s.words.withdrawCorrection(loopId, 'tempo', person);
  expect((await detailOf(loopId)).row.source.tempoBpm).toBe(120);
  // Listened to anew, it keeps what is known.
  await s.reanalysis.analyseAgain(loopId, true);
  expect((await detailOf(loopId)).chosen.tempo).toMatchObject({ value: 120, source: 'project' });
});

test('as notes: at their place and pitch, with tempo, meter and key in the file', async () => {
  const [loopId] = await make({ pack: ours, makings: [{ sheet: sheet('Engine notes'), how: part(['n'], { as: 'notes' }) }] }),
    { row, fileSha } = await detailOf(loopId);
  expect(row.source).toMatchObject({ media: 'midi', tempoBpm: 120, beats: 8 });
  const file = parseSmf(new Uint8Array(await buffer(s.storage.storage.read(fileSha))));
  expect(file.notes.map(({ startBeat, pitch }) => [startBeat, pitch])).toEqual(
    [0, 1, 2, 3, 4, 5, 6, 7].map((beat) => [beat, 50 + (beat % 4)]),
  );
  expect(file).toMatchObject({ meter: '4/4', keySignature: { sharps: -1, minor: true } });
});

test('variations of one loop are one set; a name that is there is told; two at once of one name are one behind the other', async () => {
  const ids = await make({
      pack: { ...ours, name: 'Season 3' },
      makings: [
        { sheet: sheet('Deck full', { setName: 'Deck', setRole: 'full' }), how: part(['d', 'n']) },
        { sheet: sheet('Deck tops', { setName: 'Deck', setRole: 'tops' }), how: part(['d']) },
      ],
    }),
    details = await Promise.all(ids.map(detailOf));
  expect(new Set(details.map(({ row }) => row.setId)).size).toBe(1);
  expect(details[0].siblings.map(({ title }) => title)).toEqual(['Deck tops']);
  expect((await s.making.sameNames(details[0].row.packId, ['deck FULL', 'Deck other'])).map(({ title }) => title)).toEqual(['Deck full']);
  const [twin] = await make({
    pack: { ...ours, packId: details[0].row.packId },
    makings: [{ sheet: sheet('Deck full'), how: part(['d']) }],
  });
  expect(ids).not.toContain(twin);
  // Many of one name at once, whatever is in it: each is a loop of its own.
  const many = await make({
    pack: { ...ours, packId: details[0].row.packId },
    makings: [['d'], ['n'], ['d', 'n']].map((tracks) => ({ sheet: sheet('Deck/one'), how: part(tracks) })),
  });
  expect(new Set(many).size).toBe(3);
  expect((await Promise.all(many.map(detailOf))).map(({ vendorPath }) => vendorPath).sort()).toEqual([
    'Deck-one (2).wav',
    'Deck-one (3).wav',
    'Deck-one.wav',
  ]);
});

test('made on the bench of another loop: by its steps, its vendor’s file untouched; credits follow it', async () => {
  const before = await detailOf(drums),
    { source } = before.row,
    setting = {
      tempoBpm: 120,
      beats: source.beats,
      barBeats: 4,
      key: null,
      startFrame: 0,
      onsetFrames: [...source.onsetFrames],
      isCycle: true,
    },
    [half] = await make({
      pack: ours,
      makings: [
        {
          sheet: sheet('First bar'),
          how: {
            kind: 'steps',
            as: 'sound',
            loopId: drums,
            setting,
            steps: [{ kind: 'part', fromFrame: 0, toFrame: 88_200, beats: 4, wrapsTail: false }],
          },
        },
      ],
    }),
    detail = await detailOf(half);
  expect(detail.row.source).toMatchObject({ tempoBpm: 120, beats: 4, soundFrames: 88_200 });
  expect((await detailOf(drums)).fileSha).toBe(before.fileSha);
  const sound = parseWav(new Uint8Array(await buffer(s.storage.storage.read(detail.row.source.soundSha))));
  expect(sound.channels[0].length).toBe(88_200);
  // Made of what was made: down to what was not made here.
  const [again] = await make({
      pack: ours,
      makings: [
        {
          sheet: sheet('First bar, louder'),
          how: {
            kind: 'steps',
            as: 'sound',
            loopId: half,
            setting: { ...setting, beats: 4 },
            steps: [{ kind: 'layers', layers: [{ semitones: 0, gainDb: 3, pan: 0, delayBeats: 0, lowCutHz: null }] }],
          },
        },
      ],
    }),
    madeOf = (await s.making.sourcesOfMade([again])).get(again) ?? [];
  expect(madeOf.map(({ loopId }) => loopId).sort()).toEqual([drums, half].sort());
  const project = (await s.projects.openProject(projectId, person))?.project;
  const credits = s.used.creditsText(project!, await s.used.usedLoops(project!, await s.search.findRowsById([again], person)));
  expect(credits).toContain('made of: Drums');
  expect(credits).toContain('Given material');
});

test.each<[string, () => HowAsked, RegExp]>([
  ['what is muted', () => part(['m']), /nothing to hear/],
  [
    'a part without clips',
    () => part(['d'], { asked: { trackIds: ['d'], clipIds: null, fromBeat: 64, toBeat: 72, tail: 'wrap' } }),
    /nothing to hear/,
  ],
  ['notes where there are none', () => part(['d'], { as: 'notes' }), /no notes/],
  ['a project that is gone', () => ({ ...part(['d']), projectId: 999_999 }) as HowAsked, /no longer there/],
])('%s: nothing is made, and why is said', async (_, how, words) => {
  const packs = (await s.making.ownPacks()).length;
  expect(await s.making.requestMakings({ pack: { ...ours, name: 'Never' }, makings: [{ sheet: sheet('X'), how: how() }] }, person)).toMatch(
    words,
  );
  expect(await s.making.ownPacks()).toHaveLength(packs);
});
test('what is made of a loop that may not be used for commercial work may not be either, whatever its own pack says', async () => {
  await s.db.sequelize.query(`update packs set licence = 'Non-commercial only' where name = 'Given material'`);
  const [loopId] = await make({
      pack: { ...ours, name: 'Free for all', licence: 'Royalty-free' },
      makings: [{ sheet: sheet('Restricted engine'), how: part(['d']) }],
    }),
    found = async (words: string) =>
      (await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, words }, person, null), 0)).rows.map(({ id }) => id);
  expect((await detailOf(loopId)).licence).toBe('Royalty-free · Non-commercial only');
  expect(await found('restricted')).toContain(loopId);
  expect(await found('restricted licence:commercial')).toEqual([]);
  expect(await found('restricted licence:changed')).toContain(loopId);
});
test('a pattern of slices is kept as notes', async () => {
  const setting = { tempoBpm: 120, beats: 8, barBeats: 4, key: null, startFrame: 0, onsetFrames: [0, 22_050], isCycle: true },
    hits = [0, 4, 6].map((step, slice) => ({ step, slice: slice % 2, velocity: 1, reverse: false })),
    [loopId] = await make({
      pack: ours,
      makings: [
        {
          sheet: sheet('Slices as notes'),
          how: { kind: 'steps', as: 'notes', loopId: drums, setting, steps: [{ kind: 'slices', stepsPerBeat: 4, hits }] },
        },
      ],
    }),
    { row, fileSha } = await detailOf(loopId);
  expect(row.source).toMatchObject({ media: 'midi', tempoBpm: 120, beats: 8 });
  expect(
    parseSmf(new Uint8Array(await buffer(s.storage.storage.read(fileSha)))).notes.map(({ startBeat, pitch }) => [startBeat, pitch]),
  ).toEqual([
    [0, 36],
    [1, 37],
    [1.5, 36],
  ]);
  expect(
    await s.making.requestMakings(
      { pack: ours, makings: [{ sheet: sheet('No slices'), how: { kind: 'steps', as: 'notes', loopId: drums, setting, steps: [] } }] },
      person,
    ),
  ).toMatch(/pattern of slices/);
});
test('a dropped file becomes a loop of the group’s own; what is no sound is refused in words', async () => {
  const take = async (name: string, bytes: Buffer, tempo: number | null = null) =>
    s.making.takeFile(person, name, tempo, Readable.from([bytes]));
  const id = await take('Knocks 96 bpm.wav', wav(beats(120, 8)), 118);
  await until(async () => (await s.making.makingsOf(person, [id as number])).every(({ state }) => state === 'done' || state === 'failed'));
  const [{ loopId, message }] = await s.making.makingsOf(person, [id as number]);
  // It is the file that the library has already.
  expect(message).toBe('The very same sound is in the library already, as “Drums”.');
  const { row, chosen, made } = await detailOf(loopId as number);
  expect(row).toMatchObject({ title: 'Knocks 96 bpm', packName: 'Recorded and dropped' });
  // Recorded over a project of 118, whatever its name says.
  expect(chosen.tempo).toMatchObject({ value: 118, source: 'project' });
  expect(made?.sources).toEqual([]);
  expect(await take('Notes.txt', Buffer.from('x'))).toMatch(/takes sounds/);
  const broken = await take('Broken.wav', Buffer.from('no sound at all'));
  await until(async () => (await s.making.makingsOf(person, [broken as number])).every(({ state }) => state === 'failed'));
  expect((await s.making.makingsOf(person, [broken as number]))[0].message).toMatch(/./);
  expect((await s.keeping.checkStore()).unreferred).toEqual([]);
});
test('a second pack of one name is not made; one that nothing came into is put away', async () => {
  const [{ name, id }] = await s.making.ownPacks();
  expect(await s.making.requestMakings({ pack: { ...ours, name }, makings: [{ sheet: sheet('X'), how: part(['d']) }] }, person)).toMatch(
    /already/,
  );
  expect((await s.making.ownPacks()).filter((pack) => pack.name === name).map((pack) => pack.id)).toEqual([id]);
  // A part of a loop of a few frames cannot be made.
  const setting = { tempoBpm: 120, beats: 8, barBeats: 4, key: null, startFrame: 0, onsetFrames: [], isCycle: true },
    ids = await s.making.requestMakings(
      {
        pack: { ...ours, name: 'Comes to nothing' },
        makings: [
          {
            sheet: sheet('Nothing'),
            how: {
              kind: 'steps',
              as: 'sound',
              loopId: drums,
              setting,
              steps: [{ kind: 'part', fromFrame: 0, toFrame: 10, beats: null, wrapsTail: false }],
            },
          },
        ],
      },
      person,
    );
  // It fails at once and in words, and is not tried again.
  await until(async () => (await s.making.makingsOf(person, ids as number[])).every(({ state }) => state === 'failed'));
  expect((await s.making.makingsOf(person, ids as number[]))[0]).toMatchObject({
    loopId: null,
    message: 'The part is shorter than a hundredth of a second.',
  });
  expect((await s.making.ownPacks()).map((pack) => pack.name)).not.toContain('Comes to nothing');
});
test('only packs of the group’s own take what is made', async () => {
  const [{ packId }] = await s.search.findRowsById([drums], person);
  expect(await s.making.requestMakings({ pack: { ...ours, packId }, makings: [{ sheet: sheet('X'), how: part(['d']) }] }, person)).toMatch(
    /own/,
  );
});
test('called otherwise, it is found by that; its file keeps its name', async () => {
  const { row } = await detailOf(drums);
  expect(await s.loops.renameLoop(drums, 'Zebrawood stomp', person)).toEqual({ before: row.title });
  const detail = await detailOf(drums);
  expect([detail.row.title, detail.row.fileName]).toEqual(['Zebrawood stomp', row.fileName]);
  expect(await s.loops.renameLoop(999_999, 'X', person)).toBeNull();
  // Who takes a name back that another has replaced by now leaves theirs.
  expect(await s.loops.renameLoop(drums, row.title, person, 'Ebony stomp')).toMatch(/“Zebrawood stomp” by now/);
  expect((await detailOf(drums)).row.title).toBe('Zebrawood stomp');
  expect(await s.loops.renameLoop(drums, row.title, person, 'Zebrawood stomp')).toEqual({ before: 'Zebrawood stomp' });
});
