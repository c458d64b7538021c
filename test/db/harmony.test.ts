import { emptyPattern } from '~core/arrangement/pattern/make-pattern';
import { emptyProject, newClip, newClipOf, newTrack, type Project } from '~core/arrangement/tree';
import { writeSmf } from '~core/formats/smf/write';
import { beats, importAll, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number, drums: number, notes: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  const midi = writeSmf({
      notes: [0, 1, 2, 3].map((startBeat) => ({
        startBeat,
        lengthBeats: 0.9,
        pitch: [50, 53, 57, 62][startBeat],
        velocity: 90,
        channel: 0,
      })),
      lengthBeats: 4,
      tempoBpm: 120,
      meter: '4/4',
    }),
    { lines } = await importAll(library, 'Harmony material', [
      ['Drums 120 bpm.wav', wav(beats(120, 8))],
      ['Keys 120 bpm Dm.mid', Buffer.from(midi)],
    ]);
  [drums, notes] = ['Drums 120 bpm.wav', 'Keys 120 bpm Dm.mid'].map((path) => lines.find((line) => line.path === path)?.loopId as number);
});
afterAll(() => library.close());

const piece = (): Project => ({
  ...emptyProject('Harmony', 120, { tonic: 2, mode: 'minor', church: 'dorian' }),
  sections: [{ kind: 'section', id: 's', name: 'Main', startBeat: 8, lengthBeats: 8, key: { tonic: 4, mode: 'minor' } }],
  chords: [
    { startBeat: 0, symbol: 'Dm7' },
    { startBeat: 4, symbol: 'N.C.' },
  ],
  patterns: [
    emptyPattern({
      id: 'p',
      name: 'Keys',
      lengthBeats: 4,
      key: { tonic: 2, mode: 'minor' },
      fromLoopId: notes,
      notes: [{ id: 'n', startBeat: 0, lengthBeats: 1, pitch: 62, velocity: 90 }],
    }),
  ],
  tracks: [
    newTrack({
      id: 't',
      name: 'Keys',
      clips: [
        newClipOf(
          { kind: 'notes', patternId: 'p' },
          { id: 'c', startBeat: 0, lengthBeats: 16, chordWay: 'roots', overrides: { instrument: 'organ' } },
        ),
      ],
    }),
    newTrack({
      id: 'd',
      name: 'Drums',
      clips: [newClip({ id: 'e', loopId: drums, startBeat: 0, lengthBeats: 16, shiftMarks: [{ atBeat: 0, semitones: -8 }] })],
    }),
  ],
});

test('church mode, keys of sections, chords, patterns and what follows them are kept as they are', async () => {
  const id = await s.projects.createProject(piece(), person);
  expect(await s.projects.readTree(id)).toEqual(piece());
  // Edited by steps, and read anew.
  const taken = await s.projects.takeSteps(
    id,
    0,
    [
      {
        stepId: 'one',
        edit: {
          kind: 'change-notes',
          patternId: 'p',
          gone: ['n'],
          put: [{ id: 'm', startBeat: 2, lengthBeats: 1, pitch: 65, velocity: 80 }],
        },
      },
      { stepId: 'two', edit: { kind: 'set-section', sectionId: 's', changes: { key: null } } },
      { stepId: 'three', edit: { kind: 'set-pattern', patternId: 'gone', changes: { name: 'x' } } },
    ],
    person,
  );
  expect(taken?.refused).toMatchObject([{ stepId: 'three', message: 'That pattern is no longer there.' }]);
  const open = await s.projects.openProject(id, person);
  expect(open?.project.patterns[0].notes.map(({ id: note }) => note)).toEqual(['m']);
  expect(open?.project.sections[0].key ?? null).toBeNull();
  // The loop whose notes a pattern is comes along, and knows where it is used.
  expect(open?.loops.map((row) => row.id).sort()).toEqual([drums, notes].sort());
  expect((await s.loops.findLoop(notes, person))?.usedIn).toMatchObject([{ id, bars: '1–4' }]);
});

test('a pattern of a loop that is not there is refused by itself', async () => {
  const id = await s.projects.createProject(piece(), person),
    taken = await s.projects.takeSteps(
      id,
      0,
      [{ stepId: 'x', edit: { kind: 'add-pattern', pattern: emptyPattern({ id: 'q', name: 'Q', lengthBeats: 4, fromLoopId: 999_999 }) } }],
      person,
    );
  expect(taken?.refused).toMatchObject([{ message: 'That loop is no longer in the library.' }]);
});

test('a person’s word on chords is above what is heard, and is taken back', async () => {
  const ada = { id: person, name: 'Ada Quill' };
  expect(await s.statedChords.sayChords(notes, 'Dm Hx', ada)).toEqual({ wrong: 'Hx' });
  expect(await s.statedChords.sayChords(999_999, 'Dm', ada)).toBe('missing');
  expect(await s.statedChords.sayChords(notes, 'Dm,G7', ada)).toBeNull();
  const detail = await s.loops.findLoop(notes, person);
  expect(detail?.statedChords).toEqual({
    marks: [
      { startBeat: 0, symbol: 'Dm' },
      { startBeat: 2, symbol: 'G7' },
    ],
    source: 'person',
    by: 'Ada Quill',
  });
  expect(detail?.row.source.harmony).toMatchObject({ isStated: true, chords: [{ root: 2 }, { startBeat: 2, root: 7 }] });
  // Listened to anew, it stands.
  await s.reanalysis.analyseAgain(notes, true);
  expect((await s.loops.findLoop(notes, person))?.row.source.harmony?.isStated).toBe(true);
  expect(await s.statedChords.sayChords(notes, '', ada)).toBeNull();
  expect((await s.loops.findLoop(notes, person))?.row.source.harmony).toMatchObject({ isStated: false });
});

test('what is given back of notes over chords states them, says its instrument, and is told when it is there already', async () => {
  const projectId = await s.projects.createProject(piece(), person),
    sheet = (name: string) => ({
      name,
      kind: 'loop' as const,
      setName: '',
      setRole: null,
      instrument: null,
      genre: [],
      character: [],
      tags: [],
      landingSeconds: null,
      chords: '',
    }),
    how = (as: 'notes' | 'sound') => ({
      kind: 'part' as const,
      projectId,
      as,
      asked: { trackIds: ['t'], clipIds: null, fromBeat: 0, toBeat: 8, tail: 'wrap' as const },
    }),
    give = async (name: string, as: 'notes' | 'sound') => {
      const own = (await s.making.ownPacks())[0],
        ids = await s.making.requestMakings(
          {
            pack: { packId: own?.id ?? null, name: 'Ours', vendor: 'Us', licence: 'ours' },
            makings: [{ sheet: sheet(name), how: how(as) }],
          },
          person,
        );
      if (typeof ids === 'string') throw new Error(ids);
      await until(async () => (await s.making.makingsOf(person, ids)).every(({ state }) => state === 'done' || state === 'failed'));
      return (await s.making.makingsOf(person, ids))[0];
    },
    first = await give('Over Dm', 'notes');
  expect(first).toMatchObject({ state: 'done', message: null });
  const detail = await s.loops.findLoop(first.loopId as number, person);
  expect(detail?.statedChords).toMatchObject({
    source: 'project',
    by: 'Harmony',
    marks: [{ startBeat: 0, symbol: 'Dm7' }, { symbol: 'N.C.' }],
  });
  expect(detail?.row.source.instrument).toBe('organ');
  expect(detail?.made?.how).toMatchObject({ kind: 'part', part: { patterns: [{ id: 'p' }] } });
  expect((await give('As sound', 'sound')).message).toBeNull();
  expect((await give('The same again', 'sound')).message).toBe('The very same sound is in the library already, as “As sound”.');
});

test('tags that would suit: those of the loops first, then those most used', async () => {
  await s.loops.setTag(drums, 'ferry', true, person);
  await s.loops.setTag(notes, 'evening', true, person);
  expect((await s.tags.suggestedTags([notes]))[0]).toBe('evening');
  expect(await s.tags.suggestedTags([])).toEqual(expect.arrayContaining(['ferry', 'evening']));
});
