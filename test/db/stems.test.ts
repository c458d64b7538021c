import { buffer } from 'node:stream/consumers';
import { newClip, newTrack } from '~core/arrangement/tree';
import { parseSmf } from '~core/formats/smf/parse';
import { parseWav } from '~core/formats/wav/parse';
import { unzipped } from '../generators/unzipped';
import { givenMaterial } from './given-material';
import { openLibrary, storeStaysWhole, until, type Library, type Services } from './services';

let library: Library, s: Services, person: number, projectId: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  const { drums, notes } = await givenMaterial(library);
  projectId = await s.projects.createProject(
    {
      kind: 'project',
      name: 'Engine: Room',
      tempoBpm: 120,
      key: { tonic: 4, mode: 'minor' },
      meter: '4/4',
      masterGainDb: 3,
      sections: [],
      chords: [],
      patterns: [
        {
          kind: 'pattern',
          id: 'p',
          name: 'Bell',
          lengthBeats: 4,
          notes: [{ id: 'n', startBeat: 1, lengthBeats: 1, pitch: 76, velocity: 100 }],
          isDrums: false,
          instrument: null,
          key: null,
          chords: [],
          fromLoopId: null,
        },
      ],
      tracks: [
        // Loud enough that their sum passes full scale.
        newTrack({
          id: 'd',
          name: 'Drums',
          gainDb: 12,
          pan: -0.3,
          clips: [newClip({ id: 'd1', loopId: drums, startBeat: 0, lengthBeats: 16 })],
        }),
        newTrack({ id: 'm', name: 'Mute', muted: true, clips: [newClip({ id: 'm1', loopId: drums, startBeat: 0, lengthBeats: 8 })] }),
        newTrack({ id: 'n', name: 'Bass', clips: [newClip({ id: 'n1', loopId: notes, startBeat: 8, lengthBeats: 8 })] }),
        newTrack({
          id: 'b',
          name: 'Bell',
          clips: [{ ...newClip({ id: 'b1', loopId: 0, startBeat: 4, lengthBeats: 8 }), content: { kind: 'notes', patternId: 'p' } }],
        }),
      ],
    },
    person,
  );
});
afterAll(() => library.close());
storeStaysWhole(() => library.s);

async function handedOver(form: Partial<Parameters<Services['exports']['requestExport']>[2]> = {}) {
  const id = await s.exports.requestExport(projectId, person, { what: 'stems', bits: 24, rateHz: 44100, overs: 'lower', ...form }),
    lineOf = async () => (await s.exports.listExports(projectId)).find((each) => each.id === id);
  expect(await until(async () => ['done', 'failed'].includes((await lineOf())?.state ?? ''))).toBe(true);
  const line = await lineOf();
  expect(line).toMatchObject({ state: 'done', what: 'stems' });
  return { line, files: await unzipped(await buffer(s.storage.storage.read(line?.fileSha as string))) };
}
const soundOf = (files: ReadonlyMap<string, Buffer>, name: string) => parseWav(new Uint8Array(files.get(`Engine- Room/${name}`) as Buffer));

test.each([{ rateHz: 44100 }, { rateHz: 48000 }] as const)(
  'the mixdown, a stem a track that sum up to it, the notes and what was used, at $rateHz Hz',
  async ({ rateHz }) => {
    const { line, files } = await handedOver({ rateHz }),
      stems = ['Drums', 'Bass', 'Bell'].map((name, k) => `Stems/0${k + 1} ${name}.wav`);
    expect([...files.keys()]).toEqual(
      [...stems, 'Mixdown.wav', 'Notes/02 Bass.mid', 'Notes/03 Bell.mid', 'Used loops.txt'].map((name) => `Engine- Room/${name}`),
    );
    expect(line?.message).toMatch(/^3 stems, notes of 2 tracks\. The sum reached .* brought down by/);
    const mix = soundOf(files, 'Mixdown.wav'),
      parts = stems.map((name) => soundOf(files, name));
    let [most, loudest] = [0, 0];
    for (const side of [0, 1])
      for (let i = 0; i < mix.channels[side].length; i++) {
        const sum = parts.reduce((so, { channels }) => so + channels[side][i], 0);
        most = Math.max(most, Math.abs(sum - mix.channels[side][i]));
        loudest = Math.max(loudest, ...[mix, ...parts].map(({ channels }) => Math.abs(channels[side][i])));
      }
    // Four files rounded to 24 bits.
    expect(most).toBeLessThan(5 / 2 ** 24);
    expect(loudest).toBeGreaterThan(0.98);
    expect(loudest).toBeLessThan(0.99);
    for (const each of [mix, ...parts]) {
      expect(each.sampleRateHz).toBe(rateHz);
      expect(each.channels[0]).toHaveLength(mix.channels[0].length);
      expect(each.channels[0].some((value) => Math.abs(value) > 0.01)).toBe(true);
    }
    expect(files.get('Engine- Room/Used loops.txt')?.toString()).toMatch(/Given material[\s\S]*licence: not stated/);
  },
);
test('notes lie where they sound, in the key of the piece, with its tempo', async () => {
  const { files } = await handedOver(),
    notesOf = (name: string) => parseSmf(new Uint8Array(files.get(`Engine- Room/Notes/${name}.mid`) as Buffer)),
    bass = notesOf('02 Bass');
  expect(bass).toMatchObject({ tempoBpm: 120, meter: '4/4', keySignature: { sharps: 1, minor: true } });
  // Written in D minor, it goes up with the piece.
  expect(bass.notes.map(({ startBeat, pitch }) => [startBeat, pitch])).toEqual(
    [8, 9, 10, 11, 12, 13, 14, 15].map((beat) => [beat, 52 + (beat % 4)]),
  );
  expect(notesOf('03 Bell').notes.map(({ startBeat, pitch }) => [startBeat, pitch])).toEqual([
    [5, 76],
    [9, 76],
  ]);
});
test('in floating point nothing is brought down, and stems stay as loud as they are', async () => {
  const { files, line } = await handedOver({ bits: 32 }),
    { channels } = soundOf(files, 'Mixdown.wav');
  expect(line?.message).toMatch(/which this format keeps as it is/);
  expect(Math.max(...channels.map((plane) => plane.reduce((most, value) => Math.max(most, Math.abs(value)), 0)))).toBeGreaterThan(1);
});
test('of a project the latest of each kind are kept; what was done stays listed', async () => {
  const ids: (number | undefined)[] = [];
  for (const what of ['stems', 'mixdown', 'mixdown', 'mixdown', 'mixdown'] as const) {
    const id = await s.exports.requestExport(projectId, person, { what, bits: 16, rateHz: 44100, overs: 'clip' });
    expect(await until(async () => (await s.exports.listExports(projectId)).find((each) => each.id === id)?.state === 'done')).toBe(true);
    ids.push(id ?? undefined);
    // Each of its own level, so that no two are one file.
    await s.projects.editProject(projectId, 0, [{ kind: 'set-project', changes: { masterGainDb: -ids.length } }]);
  }
  const lines = await s.exports.listExports(projectId);
  expect(ids.map((id) => lines.find((line) => line.id === id)?.fileSha != null)).toEqual([true, false, true, true, true]);
  expect(lines.find(({ id }) => id === ids[1])).toMatchObject({ state: 'done', credits: expect.stringContaining('Given material') });
});
test('how far it is is told, and it can be stopped while it waits and while it is made: nothing of it stays', async () => {
  const shares: number[] = [],
    deaf = s.events.hearAnnouncements(
      (event) => void (event.kind === 'export' && event.share !== undefined && shares.push(event.share)),
      () => {},
    ),
    // Long enough to be stopped.
    longId = await s.projects.createProject(
      {
        ...((await s.projects.readTree(projectId)) as NonNullable<Awaited<ReturnType<Services['projects']['readTree']>>>),
        name: 'Long',
        tracks: ((await s.projects.readTree(projectId))?.tracks ?? []).map((track) => ({
          ...track,
          clips: track.clips.map((clip) => ({ ...clip, lengthBeats: 1600 })),
        })),
      },
      person,
    ),
    ask = async () => (await s.exports.requestExport(longId, person, { what: 'stems', bits: 24, rateHz: 48000, overs: 'lower' })) as number,
    lineOf = async (id: number) => (await s.exports.listExports(longId)).find((each) => each.id === id),
    keeper = { id: person, name: 'Ada Quill', role: 'keeper' as const, projectId: null },
    stranger = { ...keeper, id: person + 1000, role: 'member' as const },
    first = await ask();
  expect(await until(async () => (await lineOf(first))?.state === 'working' && shares.length > 0)).toBe(true);
  expect(shares.every((share) => share >= 0 && share <= 1)).toBe(true);
  expect(await s.exports.stopExport(first, stranger)).toBe(false);
  expect(await s.exports.stopExport(first, keeper)).toBe(true);
  expect(
    await until(
      async () => (await s.db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'export-project'")).length === 0,
    ),
  ).toBe(true);
  expect(await lineOf(first)).toMatchObject({ state: 'stopped', fileSha: null });
  expect(await s.exports.stopExport(first, keeper)).toBe(false);
  // One that waits behind nothing else but was stopped before it began.
  const row = await s.db.selectRows<{ id: number }>(
    'insert into exports (project_id, person_id, revision, bits, rate_hz) values ($1, $2, 0, 24, 44100) returning id',
    [longId, person],
  );
  expect(await s.exports.stopExport(row[0].id, keeper)).toBe(true);
  await s.exports.exportProject(row[0].id);
  expect(await lineOf(row[0].id)).toMatchObject({ state: 'stopped', fileSha: null });
  deaf();
});
test('what is heard is told with where it comes from and under what it stands; what is muted is not', async () => {
  const [pack] = await s.db.selectRows<{ id: number }>("select id from packs where name = 'Given material'"),
    found = await s.used.usedIn(projectId, person);
  expect(found?.used.map(({ title, tracks, licence, packId }) => [title, tracks, licence, packId]).sort()).toEqual([
    [expect.stringMatching(/^Bass/), ['Bass'], '', pack.id],
    [expect.stringMatching(/^Drums/), ['Drums'], '', pack.id],
  ]);
  expect(await s.used.usedIn(999_999, person)).toBeNull();
});
