import { openServed as open, serveProject, settled as settle, type FakeServer } from '../../test/generators/project-server';
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

test('what others do comes in under one’s own, and nothing of either is lost', async () => {
  const each = projectStore();
  server.theirs({ kind: 'set-project', changes: { name: 'Theirs' } });
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState().project).toMatchObject({ name: 'Theirs', tempoBpm: 100 });
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null });
  server.theirs({ kind: 'set-track', trackId: 't', changes: { name: 'Kit' } });
  each.heard(7, server.revision);
  await settle();
  expect(each.store.getState().project).toEqual(server.tree);
  // Taking back is one's own alone.
  each.undo();
  await settle();
  expect(server.tree).toMatchObject({ name: 'Theirs', tempoBpm: 124, tracks: [{ name: 'Kit' }] });
});
test('of one’s own only what no longer fits goes, and that is said', async () => {
  const each = projectStore();
  server.theirs({ kind: 'remove-track', trackId: 't' });
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  expect(each.store.getState()).toMatchObject({
    message: expect.stringMatching(/^One of your changes was left out: That track is no longer there/),
    project: { tempoBpm: 100, tracks: [] },
  });
  expect(each.store.getState().undo).toHaveLength(1);
  each.undo();
  await settle();
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null, undo: [] });
});
test('what can no longer be taken back says so', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-track', trackId: 't', changes: { muted: true } });
  await settle();
  server.theirs({ kind: 'remove-track', trackId: 't' });
  each.heard(7, server.revision);
  await settle();
  each.undo();
  expect(each.store.getState()).toMatchObject({ undo: [], message: expect.stringMatching(/can no longer be taken back/) });
});
test('another project in the room: what was not sent yet goes to the one before', async () => {
  jest.useFakeTimers();
  const each = projectStore();
  server.down = true;
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  await settle();
  each.load({ ...open(50), id: 8 });
  await settle();
  expect(each.store.getState()).toMatchObject({ id: 8, message: expect.stringMatching(/cannot be reached/), project: { tempoBpm: 124 } });
  server.down = false;
  await jest.advanceTimersByTimeAsync(4200);
  await settle();
  expect(server.tree.tempoBpm).toBe(100);
  expect(server.log).toHaveLength(1);
  expect(each.store.getState()).toMatchObject({ id: 8, message: null, save: 'saved', project: { tempoBpm: 124 } });
  jest.useRealTimers();
});
test('told the whole project, one’s own that are in it are not put on it twice', async () => {
  const each = projectStore(),
    track = plainTrack({ id: 'bass', name: 'Bass' });
  server.tellsWhole = true;
  server.theirs({ kind: 'set-project', changes: { name: 'Theirs' } });
  each.edit({ kind: 'add-track', track, index: 1 });
  await settle();
  expect(each.store.getState()).toMatchObject({ save: 'saved', message: null });
  expect(each.store.getState().undo).toHaveLength(1);
  expect(each.store.getState().project).toEqual(server.tree);
  expect(server.tree).toMatchObject({ name: 'Theirs', tracks: [{ name: 'Drums' }, { name: 'Bass' }] });
});
test('news that come while one asks are asked for behind it; nothing is missed, nor asked for in vain', async () => {
  const made = projectStore(),
    lets = server.answerWhenLet();
  server.theirs({ kind: 'set-project', changes: { tempoBpm: 90 } });
  made.heard(7, 4);
  await settle();
  server.theirs({ kind: 'set-project', changes: { tempoBpm: 95 } });
  made.heard(7, 5);
  await settle();
  expect(lets).toHaveLength(1);
  lets[0]();
  await settle();
  expect(tempo(made)).toBe(90);
  expect(lets).toHaveLength(2);
  lets[1]();
  await settle();
  expect(tempo(made)).toBe(95);
  expect(lets).toHaveLength(2);
});
test('a project that comes into the room while the one before is still asked about is asked about too', async () => {
  const made = projectStore(),
    lets = server.answerWhenLet();
  made.heard(7, 4);
  await settle();
  made.load(open(3, { id: 8 }));
  server.theirs({ kind: 'set-project', changes: { tempoBpm: 90 } });
  made.heard(8, 4);
  lets[0]();
  await settle();
  expect(lets).toHaveLength(2);
  lets[1]();
  await settle();
  expect(tempo(made)).toBe(90);
});
test('news of another project are none; loading the same project again keeps what is being edited', async () => {
  const each = projectStore();
  each.edit({ kind: 'set-project', changes: { tempoBpm: 100 } });
  each.heard(8, 99);
  each.load(open(3));
  expect(tempo(each)).toBe(100);
  await settle();
  expect(each.store.getState().save).toBe('saved');
  each.load(null);
  expect(each.store.getState()).toMatchObject({ id: null, project: null });
});
