import { plainTrack } from '../../test/generators/track';
import { emptyProject, type Project } from '../../core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import { ProjectStore } from './project-store';

const project: Project = {
  ...emptyProject('Engine Room', 124, { tonic: 2, mode: 'minor' }),
  tracks: [plainTrack({ name: 'Drums' })],
};
const open = (revision = 3, changes: Partial<Project> = {}): OpenProject => ({
  id: 7,
  revision,
  project: { ...project, ...changes },
  loops: [],
});

interface Sent {
  readonly revision: number;
  readonly edits: readonly { readonly kind: string }[];
}
let sent: Sent[] = [];
let answer: (body: Sent) => { status: number; body: object } | Error = (body) => ({
  status: 200,
  body: { ok: true, revision: body.revision + 1 },
});

beforeEach(() => {
  sent = [];
  answer = (body) => ({ status: 200, body: { ok: true, revision: body.revision + 1 } });
  globalThis.fetch = (async (_address: string, options: { body: string }) => {
    const body = JSON.parse(options.body) as Sent,
      result = answer(body);
    sent.push(body);
    if (result instanceof Error) throw result;
    return { json: async () => result.body };
  }) as unknown as typeof fetch;
});

const settle = async () => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};
const projectStore = () => {
  const made = new ProjectStore();
  made.load(open());
  return made;
};
const tempo = (each: ProjectStore) => each.store.getState().project?.tempoBpm;

test('an edit is seen at once, sent with the revision it was made on, then saved', async () => {
  const each = projectStore();
  expect(each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } })).toBeNull();
  expect(tempo(each)).toBe(100);
  expect(each.store.getState().save).toBe('saving');
  await settle();
  expect(sent).toMatchObject([{ revision: 3, edits: [{ kind: 'set-project' }] }]);
  expect(each.store.getState().save).toBe('saved');
});

test('edits made while one is on its way go together, on the next revision', async () => {
  const each = projectStore();
  for (const tempoBpm of [100, 101, 102]) each.edit({ kind: 'set-project', changes: { tempoBpm } });
  await settle();
  expect(sent.map((body) => [body.revision, body.edits.length])).toEqual([
    [3, 1],
    [4, 2],
  ]);
});

test('undo and redo are edits like any other, and a new edit forgets what could be redone', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  each.undo();
  each.undo();
  expect(each.store.getState().project).toEqual(project);
  each.redo();
  expect(tempo(each)).toBe(100);
  each.edit({ kind: 'set-project', changes: { name: 'Another' } });
  expect(each.store.getState().redo).toEqual([]);
  await settle();
  expect(sent.flatMap((body) => body.edits)).toHaveLength(6);
});

test('what the tree refuses is said, changes nothing and is not sent', async () => {
  const each = projectStore();
  expect(each.edit({ kind: 'set-project', changes: { tempoBpm: 5 } })).toMatch(/30 to 300/);
  expect(each.edit({ kind: 'remove-clip', clipId: 'x' })).toMatch(/no longer there/);
  await settle();
  expect(sent).toEqual([]);
  expect(tempo(each)).toBe(124);
  expect(new ProjectStore().edit({ kind: 'set-project', changes: {} })).toMatch(/no project/);
});

test('when somebody was faster nothing more is sent until the newer version is loaded; what was not sent is put on top of it', async () => {
  const each = projectStore();
  answer = () => ({ status: 409, body: { ok: false, reason: 'stale', revision: 5 } });
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  await settle();
  expect(each.store.getState()).toMatchObject({ save: 'stale' });
  expect(each.edit({ kind: 'set-project', changes: { tempoBpm: 90 } })).toMatch(/another window/);
  each.undo();
  await settle();
  expect(sent).toHaveLength(1);
  each.load(open(5, { tempoBpm: 111, tracks: [] }));
  expect(tempo(each)).toBe(100); // a page that loads for another reason takes nothing away
  each.askForNewer();
  answer = (body) => ({ status: 200, body: { ok: true, revision: body.revision + 1 } });
  each.load(open(5, { tempoBpm: 111, name: 'Theirs', tracks: [] }));
  expect(each.store.getState().project).toMatchObject({ name: 'Theirs', tempoBpm: 100, tracks: [] });
  expect(each.store.getState().message).toMatch(/^One of your changes no longer fits/);
  await settle();
  expect(sent.at(-1)).toMatchObject({ revision: 5, edits: [{ kind: 'set-project', changes: { tempoBpm: 100 } }] });
});

test('the server’s word of a newer revision is heard, of one’s own it is not', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.heard(7, 4); // our own edit, announced before its answer came
  await settle();
  expect(each.store.getState().save).toBe('saved');
  each.heard(8, 99);
  expect(each.store.getState().save).toBe('saved');
  each.heard(7, 5);
  expect(each.store.getState().save).toBe('stale');
});

test('a server that cannot be reached loses nothing: the edit is kept and sent again', async () => {
  jest.useFakeTimers();
  const each = projectStore();
  let down = true;
  answer = (body) => (down ? new Error('offline') : { status: 200, body: { ok: true, revision: body.revision + 1 } });
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState().save).toBe('failed');
  down = false;
  await jest.advanceTimersByTimeAsync(2100);
  await settle();
  expect(sent.map((body) => body.revision)).toEqual([3, 3]);
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null });
  jest.useRealTimers();
});

test('a refused edit is said, and goes from the screen; what was changed since stays where it fits', async () => {
  const each = projectStore();
  answer = (body) =>
    body.edits.some(({ kind }) => kind === 'remove-track')
      ? { status: 422, body: { ok: false, reason: 'refused', message: 'The change does not fit this project.' } }
      : { status: 200, body: { ok: true, revision: body.revision + 1 } };
  each.edit({ kind: 'remove-track', trackId: 't' });
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  expect(each.store.getState().project?.tracks).toEqual([]);
  await settle();
  expect(each.store.getState()).toMatchObject({
    save: 'failed',
    message: 'The change does not fit this project. It was taken back.',
    project: { tempoBpm: 100, tracks: project.tracks },
  });
  expect(sent.at(-1)).toMatchObject({ revision: 3, edits: [{ kind: 'set-project' }] });
  each.undo();
  expect(each.store.getState().project).toEqual(project);
  await settle();
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null, undo: [] });
});

test('loading the same revision again keeps what is being edited', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.load(open(3));
  expect(tempo(each)).toBe(100);
  each.load(null);
  expect(each.store.getState()).toMatchObject({ id: null, project: null });
});

test('a page that loads a newer revision unasked only says so', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  each.load(open(6, { tempoBpm: 111 }));
  expect(each.store.getState().save).toBe('stale');
  expect(tempo(each)).toBe(100);
});
