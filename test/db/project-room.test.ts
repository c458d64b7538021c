import { plainTrack } from '../generators/track';
import { editBetween } from '~core/arrangement/compare';
import { emptyProject, type Project } from '~core/arrangement/tree';
import type { LiveEvent } from '~contracts/live-event';
import { openLibrary, until, type Library, type Services } from './services';

let library: Library, s: Services, person: number, other: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  const added = await s.people.addPerson('Bo Second', 'another password', person);
  if (!added.ok) throw new Error('not added');
  other = added.id;
});
afterAll(() => library.close());

const piece = (name: string): Project => ({
  ...emptyProject(name, 100, { tonic: 2, mode: 'minor' }),
  tracks: [plainTrack({ id: 'a', name: 'Drums' })],
});

describe('versions', () => {
  test('are kept as it was, compared, and brought back as one step that can be taken back', async () => {
    const id = await s.projects.createProject(piece('Kept'), person),
      version = await s.room.keepVersion(id, 'before the break', person);
    if (version === null) throw new Error('not kept');
    await s.projects.editProject(
      id,
      0,
      [
        { kind: 'set-project', changes: { tempoBpm: 140 } },
        { kind: 'remove-track', trackId: 'a' },
      ],
      other,
    );
    const then = await s.room.versionOf(id, version),
      now = await s.projects.readTree(id);
    if (!then || !now) throw new Error('not there');
    expect(then.name).toBe('before the break');
    expect(then.project).toEqual(piece('Kept'));
    const back = editBetween(now, then.project);
    if (!back) throw new Error('nothing differs');
    expect(await s.projects.editProject(id, 1, [back], person)).toMatchObject({ ok: true });
    expect(await s.projects.readTree(id)).toEqual(piece('Kept'));
    expect(await s.room.versionsOf(id, other)).toMatchObject([{ id: version, name: 'before the break', revision: 0, isOwn: false }]);
  });

  test('of another project, or of none, there are none', async () => {
    const [one, two] = [await s.projects.createProject(piece('One'), person), await s.projects.createProject(piece('Two'), person)],
      version = await s.room.keepVersion(one, 'mine', person);
    expect(await s.room.versionOf(two, version as number)).toBeNull();
    expect(await s.room.dropVersion(two, version as number)).toBeNull();
    expect(await s.room.keepVersion(999_999, 'nowhere', person)).toBeNull();
    expect(await s.room.dropVersion(one, version as number)).toBe('mine');
    expect(await s.room.versionsOf(one, person)).toEqual([]);
    expect(await s.room.versionOf(one, version as number)).toBeNull();
    expect(await s.room.dropVersion(one, version as number)).toBeNull();
  });

  test('one that was forgotten is brought back for a day, and not from another project', async () => {
    const [one, two] = [await s.projects.createProject(piece('One'), person), await s.projects.createProject(piece('Two'), person)],
      version = (await s.room.keepVersion(one, 'mine', person)) as number;
    expect(await s.room.restoreVersion(one, version)).toBe(false);
    await s.room.dropVersion(one, version);
    expect(await s.room.restoreVersion(two, version)).toBe(false);
    expect(await s.room.restoreVersion(one, version)).toBe(true);
    expect((await s.room.versionOf(one, version))?.project).toEqual(piece('One'));
    await s.room.dropVersion(one, version);
    await s.db.selectRows("update project_versions set gone_at = now() - interval '2 days' where id = $1", [version]);
    // Whatever is forgotten next takes it along.
    await s.room.dropVersion(one, 999_999);
    expect(await s.room.restoreVersion(one, version)).toBe(false);
  });
});

describe('notes to a bar', () => {
  test('are said, answered, ticked off and taken up again; answers stand where their note stands', async () => {
    const id = await s.projects.createProject(piece('Noted'), person),
      note = (await s.room.addNote(id, { beat: 16, note: 'bass too busy here', answersId: null }, person)) as number,
      answer = (await s.room.addNote(id, { beat: 0, note: 'agreed', answersId: note }, other)) as number;
    expect(await s.room.notesOf(id, other)).toMatchObject([
      { id: note, beat: 16, isOwn: false, doneBy: null },
      { id: answer, answersId: note, beat: 16, isOwn: true },
    ]);
    expect(await s.room.tickNote(id, note, true, other)).toBe(true);
    expect((await s.room.notesOf(id, person))[0].doneBy).toBe('Bo Second');
    expect(await s.room.tickNote(id, note, false, person)).toBe(true);
    expect((await s.room.notesOf(id, person))[0]).toMatchObject({ doneAt: null, doneBy: null });
    // An answer is not ticked off, and not answered itself.
    expect(await s.room.tickNote(id, answer, true, person)).toBe(false);
    expect(await s.room.addNote(id, { beat: 0, note: 'and so on', answersId: answer }, person)).toBeNull();
    // Nobody takes back another’s; with a note its answers go.
    expect(await s.room.dropNote(id, note, other)).toBe(false);
    expect(await s.room.dropNote(id, note, person)).toBe(true);
    expect(await s.room.notesOf(id, person)).toEqual([]);
    // Out of sight it is neither ticked off nor answered; said again, it stands with what was answered.
    expect(await s.room.tickNote(id, note, true, other)).toBe(false);
    expect(await s.room.addNote(id, { beat: 0, note: 'too late', answersId: note }, other)).toBeNull();
    expect(await s.room.restoreNote(id, note, other)).toBe(false);
    expect(await s.room.restoreNote(id, note, person)).toBe(true);
    expect((await s.room.notesOf(id, person)).map((each) => each.id)).toEqual([note, answer]);
  });

  test('answer nothing of another project', async () => {
    const [one, two] = [await s.projects.createProject(piece('One'), person), await s.projects.createProject(piece('Two'), person)],
      note = await s.room.addNote(one, { beat: 0, note: 'here', answersId: null }, person);
    expect(await s.room.addNote(two, { beat: 0, note: 'there', answersId: note }, person)).toBeNull();
  });
});

test('who is here is told to all, and kept nowhere', async () => {
  const heard: LiveEvent[] = [],
    present = { projectId: 7, pageId: 'page-1', personId: person, name: 'Ada', clipId: 'c', leaves: false },
    end = s.events.hearAnnouncements(
      (event) => heard.push(event),
      () => {},
    );
  // Until the connection listens nothing is heard: it is said until it is.
  await until(async () => {
    await s.room.tellPresence(present);
    return heard.length > 0;
  });
  end();
  expect(heard[0]).toEqual({ kind: 'presence', ...present });
});

test('a project once more is one of its own', async () => {
  const id = await s.projects.createProject(piece('Twice'), person),
    copy = (await s.projects.duplicateProject(id, other)) as number;
  await s.projects.editProject(copy, 0, [{ kind: 'remove-track', trackId: 'a' }], other);
  expect(await s.projects.readTree(id)).toEqual(piece('Twice'));
  expect(await s.projects.readTree(copy)).toMatchObject({ name: 'Twice (copy)', tracks: [] });
  expect(await s.projects.duplicateProject(999_999, person)).toBeNull();
});
