import { Client } from 'pg';
import { emptyProject, type Project } from '~core/arrangement/tree';
import { insertLibrary } from '../generators/insert-library';
import { plainClip, plainTrack } from '../generators/track';
import { openLibrary, type Library, type Services } from './services';

const load = async () => ({
  ...(await import('~server/services/scene.server')),
  ...(await import('~server/services/near-names.server')),
});
let library: Library, s: Services, scenes: Awaited<ReturnType<typeof load>>, person: number, projectId: number;

const piece: Project = {
  ...emptyProject('Two tracks', 120, { tonic: 9, mode: 'minor' }),
  tracks: [
    plainTrack({ id: 'one', name: 'One', muted: true, clips: [plainClip({ id: 'c1', loopId: 1 })] }),
    plainTrack({ id: 'two', name: 'Two', clips: [plainClip({ id: 'c2', loopId: 2 }), plainClip({ id: 'c3', loopId: 3, startBeat: 16 })] }),
  ],
};

beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  const client = new Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await insertLibrary(client, 20, person);
  await client.end();
  scenes = await load();
  projectId = await s.projects.createProject(piece, person);
});
afterAll(() => library.close());

const loopsIn = async (range: Parameters<typeof scenes.roomScene>[1], trackIds?: readonly string[]) =>
  [...((await scenes.roomScene(projectId, range, trackIds))?.scene.loopIds ?? [])].sort();

test('what sounds is what is heard: no muted track, and in a range only what lies there', async () => {
  expect(await loopsIn(null)).toEqual([2, 3]);
  expect(await loopsIn({ startBeat: 0, lengthBeats: 16 })).toEqual([2]);
});

test('of named tracks those alone sound, muted or not, in the range that is heard', async () => {
  expect(await loopsIn(null, ['one'])).toEqual([1]);
  expect(await loopsIn(null, ['one', 'two'])).toEqual([1, 2, 3]);
  expect(await loopsIn({ startBeat: 16, lengthBeats: 16 }, ['two'])).toEqual([3]);
  expect(await loopsIn(null, ['gone'])).toEqual([]);
  // Asked again for all it is not what was kept for a few.
  expect(await loopsIn(null)).toEqual([2, 3]);
});

test('the tracks are said by their names', async () => {
  const named = (trackIds: readonly string[], project: number | null = projectId) =>
    scenes.nearName({ kind: 'tracks', trackIds }, person, project);
  expect(await named(['two'])).toBe('the track Two');
  expect(await named(['two', 'one', 'gone'])).toBe('the tracks One, Two');
  expect(await named(['gone'])).toBe('tracks that are not in this project');
  expect(await named(['one'], null)).toBe('tracks that are not in this project');
});
