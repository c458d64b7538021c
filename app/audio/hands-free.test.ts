import { transportAt } from '../../test/audio/transport';
import { HandsFree } from './hands-free';
import { createEngineStore, type Candidate } from './store';

const transport = transportAt(),
  barFrames = 88200;

async function walking(barsEach: number) {
  const store = createEngineStore(),
    steps: number[] = [],
    walk = new HandsFree(store, async () => {});
  walk.setList((delta) => steps.push(delta));
  store.setState({ candidate: { phase: 'sounding' } as Candidate });
  await walk.set(barsEach);
  return { store, steps, walk };
}

test('after its bars the next one is asked for, once, a little before the line', async () => {
  const { steps, walk } = await walking(2);
  walk.count(4);
  walk.scheduleAhead(transport, 2 * barFrames);
  expect(steps).toEqual([]);
  walk.scheduleAhead(transport, 3 * barFrames - 6000);
  expect(steps).toEqual([]);
  walk.scheduleAhead(transport, 3 * barFrames - 5000);
  walk.scheduleAhead(transport, 3 * barFrames);
  expect(steps).toEqual([1]);
});

test('what is still being fitted is waited for', async () => {
  const { store, steps, walk } = await walking(1);
  walk.count(0);
  store.setState({ candidate: { phase: 'fitting' } as Candidate });
  walk.scheduleAhead(transport, 9 * barFrames);
  expect(steps).toEqual([]);
});

test('without a list it does not begin, and ends when the list goes', async () => {
  const store = createEngineStore(),
    alone = new HandsFree(store, async () => {});
  expect(await alone.set(4)).toBe(false);
  expect(await alone.set(null)).toBe(true);
  expect(store.getState().handsFree).toBeNull();
  const { store: other, walk } = await walking(4);
  expect(other.getState().handsFree).toEqual({ barsEach: 4 });
  walk.setList(null);
  expect(other.getState().handsFree).toBeNull();
});

test('it begins with the first of the list when nothing is heard yet', async () => {
  const store = createEngineStore(),
    steps: number[] = [],
    walk = new HandsFree(store, async () => {});
  walk.setList((delta) => steps.push(delta));
  await walk.set(1);
  expect(steps).toEqual([1]);
});
