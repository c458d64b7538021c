import { plainTrack } from '../../test/generators/track';
import type { Edit } from '../../core/arrangement/edit';
import { putOn, type Step } from '../../core/arrangement/shared-project';
import { emptyProject, type Project } from '../../core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import { ProjectStore } from './project-store';

const project: Project = {
  ...emptyProject('Engine Room', 124, { tonic: 2, mode: 'minor' }),
  tracks: [plainTrack({ name: 'Drums' })],
};
const open = (revision = 3, changes: Partial<OpenProject> = {}): OpenProject => ({
  id: 7,
  revision,
  project,
  loops: [],
  undo: [],
  redo: [],
  ...changes,
});

/** A server as the real one is: steps are put on top of what it has, each that fits; what was done since is told. */
class FakeServer {
  tree = project;
  log: Step[] = [];
  sent: { revision: number; steps: Step[] }[] = [];
  down = false;
  /** What it answers instead of taking steps; 0 takes them. */
  status = 0;
  /** Tells the whole project instead of the steps. */
  tellsWhole = false;
  loseAnswer = false;
  readonly first = 3;
  get revision(): number {
    return this.first + this.log.length;
  }
  /** What somebody else does. */
  theirs(edit: Edit): void {
    this.take([{ stepId: `theirs-${this.log.length}`, edit }]);
  }
  private take(steps: readonly Step[]) {
    const {
      project: next,
      taken,
      refused,
    } = putOn(
      this.tree,
      steps.filter(({ stepId }) => !this.log.some((each) => each.stepId === stepId)),
    );
    this.tree = next;
    this.log.push(...taken.map(({ inverse: _, ...step }) => step));
    return refused;
  }
  fetch = async (address: string, options?: { body: string }) => {
    if (this.down) throw new Error('offline');
    if (!options) {
      const since = Number(/since=(\d+)/.exec(address)?.[1]);
      return { ok: true, json: async () => this.since(since) };
    }
    if (this.status) return { ok: false, status: this.status, json: async () => ({ title: 'Trouble' }) };
    const body = JSON.parse(options.body) as { revision: number; steps: Step[] };
    this.sent.push(body);
    const refused = this.take(body.steps);
    if (this.loseAnswer) {
      this.loseAnswer = false;
      throw new Error('lost');
    }
    return { ok: true, json: async () => ({ ...this.since(body.revision), refused }) };
  };
  private since(revision: number) {
    return this.tellsWhole
      ? { revision: this.revision, steps: [], project: this.tree }
      : { revision: this.revision, steps: this.log.slice(revision - this.first) };
  }
}
let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  globalThis.fetch = server.fetch as unknown as typeof fetch;
});

const settle = async () => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};
const projectStore = () => {
  const made = new ProjectStore(async () => []);
  made.load(open());
  return made;
};
/** What others have done is told as it was when it was asked for, when it is let. */
function answerWhenLet(): (() => void)[] {
  const lets: (() => void)[] = [];
  globalThis.fetch = (async (address: string) => {
    const told: unknown = await (await server.fetch(address)).json();
    await new Promise<void>((go) => lets.push(go));
    return { ok: true, json: async () => told };
  }) as unknown as typeof fetch;
  return lets;
}
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
  expect(each.store.getState().project).toEqual(project);
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
    lets = answerWhenLet();
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
    lets = answerWhenLet();
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

describe('what is heard for a while', () => {
  const other: Project = { ...project, tempoBpm: 90 };
  test('is no part of the project, and ends with whatever is done to it', () => {
    const store = new ProjectStore(async () => []);
    globalThis.fetch = new FakeServer().fetch as never;
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
