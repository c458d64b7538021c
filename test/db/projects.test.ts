import { drummed } from '../generators/drummed';
import { plainTrack } from '../generators/track';
import { inNewShape, inOldShape } from '~server/db/migrations/0036-content-and-fades';
import { newClip } from '~core/arrangement/tree';
import { parseWav } from '~core/formats/wav/parse';
import { beats, importAll, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());

/** A loop of hits that is in the library, by its id. */
const oneLoop = async (file: string, tempo: number): Promise<number> =>
  (await importAll(library, `Pack of ${file}`, [[file, wav(beats(tempo, 8))]])).lines[0].loopId as number;

describe('projects', () => {
  const tree = {
    kind: 'project' as const,
    name: 'Engine Room',
    tempoBpm: 124,
    key: { tonic: 2, mode: 'minor' as const },
    meter: '4/4',
    masterGainDb: -1,
    sections: [{ kind: 'section' as const, id: 's', name: 'Main', startBeat: 0, lengthBeats: 32 }],
    chords: [{ startBeat: 0, symbol: 'Dm7' }],
    patterns: [],
    tracks: [],
  };
  test('what is stored comes back; an edit on an older revision goes on top where it fits; nonsense is refused as a whole', async () => {
    const id = await s.projects.createProject(tree, person);
    expect((await s.projects.openProject(id, person))?.project).toEqual(tree);
    expect(await s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { tempoBpm: 100 } }])).toEqual({ ok: true, revision: 1 });
    expect(await s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { masterGainDb: -3 } }])).toEqual({
      ok: true,
      revision: 2,
    });
    expect((await s.projects.openProject(id, person))?.project).toMatchObject({ tempoBpm: 100, masterGainDb: -3 });
    for (const nonsense of [
      { kind: 'set-project', changes: { tempoBpm: 1 } },
      { kind: 'fly' },
      null,
      {
        kind: 'add-track',
        index: 0,
        track: plainTrack({
          clips: [newClip({ id: 'c', loopId: 999_999, startBeat: 0, lengthBeats: 4 })],
        }),
      },
    ]) {
      expect(await s.projects.editProject(id, 1, [{ kind: 'set-project', changes: { name: 'half' } }, nonsense as never])).toMatchObject({
        ok: false,
        reason: 'refused',
      });
    }
    expect((await s.projects.openProject(id, person))?.project).toMatchObject({ name: 'Engine Room', tempoBpm: 100 });
  });
  test('of edits at the same time all are taken, one behind the other', async () => {
    const id = await s.projects.createProject(tree, person);
    const results = await Promise.all(
      [96, 97, 98].map((tempoBpm) => s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { tempoBpm } }])),
    );
    expect(results.map((result) => result.ok)).toEqual([true, true, true]);
    expect(results.map(({ revision }) => revision).sort()).toEqual([1, 2, 3]);
  });
  test('steps: each by itself, once however often it is sent; what was done since is told; undo survives', async () => {
    const loopId = await oneLoop('Steps 96 bpm.wav', 96),
      id = await s.projects.createProject(tree, person),
      clip = newClip({ id: 'c', loopId, startBeat: 0, lengthBeats: 8 }),
      other = await s.people.addPerson('Bo Steps', 'another password', person);
    if (!other.ok) throw new Error('not added');
    const steps = [
      { stepId: 'one', edit: { kind: 'add-track' as const, index: 0, track: plainTrack({ clips: [clip] }) } },
      { stepId: 'two', edit: { kind: 'remove-clip' as const, clipId: 'nowhere' } },
      {
        stepId: 'three',
        edit: { kind: 'add-clip' as const, trackId: 't', clip: { ...clip, id: 'd', content: { kind: 'loop' as const, loopId: 999_999 } } },
      },
      { stepId: 'four', edit: { kind: 'set-clip' as const, clipId: 'c', trackId: 't', changes: { startBeat: 16 } } },
    ];
    const taken = await s.projects.takeSteps(id, 0, steps, person);
    expect(taken).toMatchObject({ revision: 2, refused: [{ stepId: 'three' }, { stepId: 'two' }] });
    expect(taken?.steps.map(({ stepId }) => stepId)).toEqual(['one', 'four']);
    // Sent again, since the answer was lost.
    expect(await s.projects.takeSteps(id, 0, [steps[0], steps[3]], person)).toMatchObject({ revision: 2, refused: [] });
    // Somebody else, who knows nothing of it, moves the same clip and makes a track.
    await s.projects.takeSteps(
      id,
      0,
      [
        { stepId: 'five', edit: { kind: 'add-track', index: 0, track: { ...plainTrack({ name: 'Theirs' }), id: 'u' } } },
        { stepId: 'six', edit: { kind: 'set-clip', clipId: 'c', trackId: 'u', changes: { lengthBeats: 4 } } },
      ],
      other.id,
    );
    const open = await s.projects.openProject(id, person);
    expect(open?.project.tracks).toMatchObject([
      { id: 'u', clips: [{ id: 'c', startBeat: 16, lengthBeats: 4 }] },
      { id: 't', clips: [] },
    ]);
    expect((await s.projects.stepsSince(id, 2))?.steps.map(({ stepId }) => stepId)).toEqual(['five', 'six']);
    // What each could take back is their own.
    expect(open?.undo.map(({ stepId }) => stepId)).toEqual(['one', 'four']);
    const [, last] = open?.undo ?? [];
    await s.projects.takeSteps(id, 4, [{ stepId: 'seven', edit: last.inverse, undoes: last.stepId }], person);
    const again = await s.projects.openProject(id, person);
    expect(again?.undo.map(({ stepId }) => stepId)).toEqual(['one']);
    expect(again?.redo.map(({ stepId }) => stepId)).toEqual(['seven']);
    expect((await s.projects.openProject(id, other.id))?.undo.map(({ stepId }) => stepId)).toEqual(['five', 'six']);
    // The tables say what the steps come to, whoever reads them.
    const rows = await s.db.selectRows<{ id: string; track: string; at: number }>(
      'select id, track_id as track, start_beat as at from clips where project_id = $1',
      [id],
    );
    expect(rows).toEqual([{ id: 'c', track: 't', at: 0 }]);
  });
  test('a step stores what it changes and nothing else', async () => {
    const loopId = await oneLoop('Many 97 bpm.wav', 97),
      clips = Array.from({ length: 300 }, (_, k) => newClip({ id: `k${k}`, loopId, startBeat: k * 8, lengthBeats: 8 })),
      id = await s.projects.createProject({ ...tree, tracks: [plainTrack({ clips })] }, person),
      written = async () =>
        (
          await s.db.selectRows<{ xmin: string; id: string }>(
            'select xmin::text as xmin, id from clips where project_id = $1 order by id',
            [id],
          )
        ).map(({ xmin, id: clipId }) => `${clipId} ${xmin}`),
      before = await written();
    await s.projects.takeSteps(
      id,
      0,
      [{ stepId: 'nudge', edit: { kind: 'set-clip', clipId: 'k7', trackId: 't', changes: { startBeat: 57 } } }],
      person,
    );
    const after = await written();
    expect(after.filter((each) => !before.includes(each)).map((each) => each.split(' ')[0])).toEqual(['k7']);
  });
  test('a project from a loop takes its tempo and meter, with the loop repeated over eight bars', async () => {
    const loopId = await oneLoop('Seed 104 bpm.wav', 104),
      made = await s.fromLoop.projectFromLoop(loopId, person);
    if (!('id' in made)) throw new Error('not made');
    const open = await s.projects.openProject(made.id, person);
    expect(open?.project.tempoBpm).toBeCloseTo(104, 1);
    expect(open?.project.tracks).toMatchObject([{ clips: [{ content: { loopId }, startBeat: 0, lengthBeats: 32 }] }]);
    expect(open?.loops.map(({ id }) => id)).toEqual([loopId]);
    expect(await s.fromLoop.projectFromLoop(999_999, person)).toEqual({ errors: { loop: 'That loop is no longer there.' } });
  });
  test('from a loop in bars of five a project in 5/4 is made, eight bars long', async () => {
    const { lines } = await importAll(library, 'Crooked Pier', [['Crooked 118 bpm.wav', wav(drummed(5, 4, 118))]]),
      loopId = lines[0].loopId as number,
      made = await s.fromLoop.projectFromLoop(loopId, person);
    if (!('id' in made)) throw new Error('not made');
    const open = await s.projects.openProject(made.id, person);
    expect(open?.loops[0]).toMatchObject({ meter: 'unknown', bars: 4, source: { beats: 20, barBeats: 5 } });
    expect(open?.project).toMatchObject({ meter: '5/4', tracks: [{ clips: [{ lengthBeats: 40 }] }] });
  });
  test('an archived project is listed apart, cannot be opened or edited, and comes back as it was', async () => {
    const id = await s.projects.createProject({ ...tree, name: 'Shelved' }, person);
    await s.projects.archiveProject(id, true, person);
    expect(await s.projects.openProject(id, person)).toBeNull();
    expect(await s.projects.editProject(id, 0, [])).toMatchObject({ ok: false, reason: 'missing' });
    expect((await s.projects.listProjects()).some((line) => line.id === id)).toBe(false);
    expect((await s.projects.listProjects(true)).find((line) => line.id === id)).toMatchObject({ name: 'Shelved', createdBy: 'Ada Quill' });
    await s.projects.archiveProject(id, false, person);
    expect((await s.projects.openProject(id, person))?.project).toEqual({ ...tree, name: 'Shelved' });
  });
  test('a mixdown is as long as the piece to the frame, and names what was used', async () => {
    const loopId = await oneLoop('Mixed 100 bpm.wav', 100),
      made = await s.fromLoop.projectFromLoop(loopId, person);
    if (!('id' in made)) throw new Error('not made');
    const exportId = (await s.exports.requestExport(made.id, person, {
      bits: 16,
      rateHz: 44100,
      overs: 'lower',
      what: 'mixdown',
    })) as number;
    expect(await until(async () => (await s.exports.listExports(made.id))[0].state === 'done')).toBe(true);
    const [line] = await s.exports.listExports(made.id);
    expect(line).toMatchObject({ id: exportId, bits: 16, rateHz: 44100, message: expect.stringMatching(/dBFS|full scale/) });
    expect(line.credits).toMatch(
      /Mixed[\s\S]*Quay Street Keys[\s\S]*licence: not stated[\s\S]*release: to be asked about \(no licence stated\)/,
    );
    const parts: Buffer[] = [];
    for await (const part of s.storage.storage.read(line.fileSha as string)) parts.push(part as Buffer);
    const { channels, sampleRateHz } = parseWav(new Uint8Array(Buffer.concat(parts)));
    expect(sampleRateHz).toBe(44100);
    expect(channels).toHaveLength(2);
    // Eight bars at 100, and what rings on.
    expect(channels[0].length).toBeGreaterThanOrEqual(Math.round((32 * 60 * 44100) / 100));
    expect(channels[0].some((value) => Math.abs(value) > 0.1)).toBe(true);
    expect(await s.exports.findExport(exportId)).toMatchObject({ bits: 16, fileSha: line.fileSha });
  });
  test('a mixdown is of the project as it was asked for, names only what is heard, and clips nothing unasked', async () => {
    const loud = await oneLoop('Loud 100 bpm.wav', 100),
      muted = await oneLoop('Silenced 90 bpm.wav', 90),
      clip = (id: string, loopId: number, gainDb: number) => newClip({ id, loopId, startBeat: 0, lengthBeats: 8, gainDb }),
      id = await s.projects.createProject(
        {
          ...tree,
          name: 'Loud piece',
          masterGainDb: 0,
          tracks: [
            plainTrack({ id: 'a', name: 'Heard', clips: [clip('c', loud, 24), { ...clip('e', muted, 0), muted: true }] }),
            plainTrack({ id: 'f', name: 'Aside', setAside: true, clips: [clip('g', muted, 0)] }),
            plainTrack({ id: 'b', name: 'Not heard', muted: true, clips: [clip('d', muted, 0)] }),
          ],
        },
        person,
      );
    // The job begins only after the project has been changed, whatever the queue does.
    const open = await s.projects.openProject(id, person),
      exportId = (await s.exports.requestExport(id, person, { bits: 24, rateHz: 44100, overs: 'lower', what: 'mixdown' })) as number;
    await s.projects.editProject(id, 0, [{ kind: 'remove-track', trackId: 'a' }]);
    expect(await until(async () => (await s.exports.listExports(id))[0].state === 'done')).toBe(true);
    const [line] = await s.exports.listExports(id);
    expect(line).toMatchObject({
      id: exportId,
      revision: open?.revision,
      message: expect.stringMatching(/over full scale; all of it was brought down/),
    });
    expect(line.credits).toMatch(/Loud/);
    expect(line.credits).not.toMatch(/Silenced/);
    const parts: Buffer[] = [];
    for await (const part of s.storage.storage.read(line.fileSha as string)) parts.push(part as Buffer);
    const [left] = parseWav(new Uint8Array(Buffer.concat(parts))).channels,
      peak = left.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    expect(peak).toBeGreaterThan(0.95);
    expect(peak).toBeLessThan(0.995);
  });
  test('a mixdown of nothing says that there is nothing to hear', async () => {
    const id = await s.projects.createProject({ ...tree, name: 'Quiet' }, person);
    await s.exports.requestExport(id, person, { bits: 24, rateHz: 48000, overs: 'lower', what: 'mixdown' });
    expect(await until(async () => (await s.exports.listExports(id))[0].state === 'failed')).toBe(true);
    expect((await s.exports.listExports(id))[0].message).toMatch(/nothing to hear/);
    expect(await s.exports.requestExport(999_999, person, { bits: 16, rateHz: 44100, overs: 'lower', what: 'mixdown' })).toBeNull();
    expect(await s.exports.findExport(999_999)).toBeNull();
  });

  test('steps that were kept in an older shape are brought into the one of today, and back', async () => {
    const old = {
        kind: 'add-track',
        index: 0,
        track: {
          kind: 'track',
          id: 't',
          name: 'Called "loopId": 7, "kind": "clip"',
          muted: true,
          clips: [
            { kind: 'clip', id: 'c', loopId: 12, startBeat: 4, overrides: { reverse: true } },
            { kind: 'clip', id: 'd', loopId: 3, startBeat: 0 },
          ],
        },
      },
      through = async (shape: (column: string) => string, value: unknown) =>
        (
          await s.db.selectRows<{ made: unknown }>(`select ${shape('v.given')} as made from (select $1::jsonb as given) v`, [
            JSON.stringify(value),
          ])
        )[0].made,
      made = await through(inNewShape, old),
      added = { muted: false, fadeInBeats: 0, fadeOutBeats: 0 };
    expect(made).toEqual({
      ...old,
      track: {
        ...old.track,
        setAside: false,
        clips: [
          { kind: 'clip', id: 'c', content: { kind: 'loop', loopId: 12 }, startBeat: 4, overrides: { reverse: true }, ...added },
          { kind: 'clip', id: 'd', content: { kind: 'loop', loopId: 3 }, startBeat: 0, overrides: {}, ...added },
        ],
      },
    });
    expect(await through(inOldShape, made)).toMatchObject(old);
  });
});
