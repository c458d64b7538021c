import { openServed as open, served, serveProject, settled as settle, type FakeServer } from '../../test/generators/project-server';
import { plainTrack } from '../../test/generators/track';
import { ProjectStore } from './project-store';

let server: FakeServer;
beforeEach(() => {
  server = serveProject();
});
const projectStore = () => {
  const made = new ProjectStore(async () => []);
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
  expect(server.sent).toMatchObject([{ revision: 3, steps: [{ edit: { kind: 'set-project' } }] }]);
  expect(each.store.getState().save).toBe('saved');
});
test('edits made while one is on its way go together, on the next revision', async () => {
  const each = projectStore();
  for (const tempoBpm of [100, 101, 102]) each.edit({ kind: 'set-project', changes: { tempoBpm } });
  await settle();
  expect(server.sent.map((body) => [body.revision, body.steps.length])).toEqual([
    [3, 1],
    [4, 2],
  ]);
});
test('undo and redo are steps like any other, and a new edit forgets what could be redone', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  each.undo();
  each.undo();
  expect(each.store.getState().project).toEqual(served);
  each.redo();
  expect(tempo(each)).toBe(100);
  each.edit({ kind: 'set-project', changes: { name: 'Another' } });
  expect(each.store.getState().redo).toEqual([]);
  await settle();
  expect(server.log).toHaveLength(6);
  expect(server.tree).toEqual(each.store.getState().project);
});
test('a step is taken back by a button of its own, whatever was done after it, and once', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  const undo = each.undoOfLast();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  undo();
  undo();
  await settle();
  expect(server.tree.tracks[0].muted).toBe(false);
  expect(tempo(each)).toBe(100);
  expect(each.store.getState().undo).toHaveLength(1);
  each.undo();
  each.redo();
  each.redo();
  await settle();
  expect([server.tree.tracks[0].muted, server.tree.tempoBpm]).toEqual([true, 100]);
});
test('what cannot be taken back over what was done after it can be behind that', async () => {
  const each = projectStore(),
    added = plainTrack({ id: 'new', name: 'New' });
  each.edit({ kind: 'add-track', track: added, index: 1 });
  const undo = each.undoOfLast();
  each.edit({ kind: 'remove-track', trackId: 'new' });
  undo();
  expect(each.store.getState().message).toMatch(/no longer be taken back/);
  each.undo();
  each.undo();
  await settle();
  expect(server.tree.tracks.map(({ id }) => id)).toEqual(['t']);
});
test('what one could take back is there again behind a reload', async () => {
  const each = new ProjectStore(async () => []);
  each.load(open(3, { undo: [{ stepId: 'before', inverse: { kind: 'set-project', changes: { name: 'As it was' } } }] }));
  each.undo();
  await settle();
  expect(server.tree.name).toBe('As it was');
  expect(server.log[0]).toMatchObject({ undoes: 'before' });
});
test('what the tree refuses is said, changes nothing and is not sent', async () => {
  const each = projectStore();
  expect(each.edit({ kind: 'set-project', changes: { tempoBpm: 5 } })).toMatch(/30 to 300/);
  expect(each.edit({ kind: 'remove-clip', clipId: 'x' })).toMatch(/no longer there/);
  await settle();
  expect(server.sent).toEqual([]);
  expect(tempo(each)).toBe(124);
  expect(new ProjectStore().edit({ kind: 'set-project', changes: {} })).toMatch(/no project/);
});
test('a server that cannot be reached loses nothing: the step is kept and sent again, and taken once', async () => {
  jest.useFakeTimers();
  const each = projectStore();
  server.down = true;
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState().save).toBe('failed');
  server.down = false;
  server.loseAnswer = true;
  await jest.advanceTimersByTimeAsync(2100);
  await settle();
  await jest.advanceTimersByTimeAsync(2100);
  await settle();
  expect(server.sent).toHaveLength(2);
  expect(server.log).toHaveLength(1);
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null, project: { tempoBpm: 100 } });
  jest.useRealTimers();
});
test.each([
  [401, /signed out/],
  [429, /could not take/],
  [500, /could not take/],
])('an answer of %i takes nothing back: the step is kept and sent again', async (status, says) => {
  jest.useFakeTimers();
  const each = projectStore();
  server.status = status;
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState()).toMatchObject({ save: 'failed', message: expect.stringMatching(says), project: { tempoBpm: 100 } });
  server.status = 0;
  await jest.advanceTimersByTimeAsync(2100);
  await settle();
  expect(server.log).toHaveLength(1);
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null });
  jest.useRealTimers();
});
test('what was refused for good is taken back, and said', async () => {
  const each = projectStore();
  server.status = 404;
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState()).toMatchObject({
    save: 'failed',
    message: 'The change was refused. It was taken back.',
    project: { tempoBpm: 124 },
  });
});
describe('what is heard for a while', () => {
  const other: typeof served = { ...served, tempoBpm: 90 };
  test('is no part of the project, and ends with whatever is done to it', () => {
    const store = new ProjectStore(async () => []);
    store.load(open());
    store.hearInstead(other);
    expect(store.store.getState()).toMatchObject({ preview: other, project: { tempoBpm: 124 } });
    store.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
    expect(store.store.getState().preview).toBeNull();
    store.hearInstead(other);
    store.undo();
    expect(store.store.getState().preview).toBeNull();
  });
  test('leaves with the project', () => {
    const store = new ProjectStore(async () => []);
    store.load(open());
    store.hearInstead(other);
    store.load(open(1, { id: 8 }));
    expect(store.store.getState().preview).toBeNull();
  });
});
