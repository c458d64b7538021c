import { ShortlistController } from './shortlist-controller';
import { createEngineStore, type EngineStore } from './store';
import type { CandidateRequest } from './candidate-request';

const request = (id: number): CandidateRequest =>
  ({ row: { id, title: `Loop ${id}` }, overrides: {}, offsetBeats: 0 }) as unknown as CandidateRequest;

let store: EngineStore, heard: number[], changes: number, controller: ShortlistController;
beforeEach(() => {
  store = createEngineStore();
  heard = [];
  changes = 0;
  controller = new ShortlistController(
    store,
    ({ row }) => {
      heard.push(row.id);
      return Promise.resolve();
    },
    () => changes++,
  );
});
const hold = (id: number) => {
  store.setState({ candidate: { ...request(id), phase: 'sounding' } as never });
  return controller.keepCandidate();
};
const ids = () => store.getState().shortlist.entries.map(({ row }) => row.id);

test('the candidate is held, each change is fitted ahead', () => {
  expect(hold(3)).toBe(true);
  expect(hold(5)).toBe(true);
  expect(ids()).toEqual([3, 5]);
  expect(changes).toBe(2);
});

test('without a candidate nothing is held, and nothing is amiss', () => {
  expect(controller.keepCandidate()).toBe(true);
  expect(ids()).toEqual([]);
  expect(changes).toBe(0);
});

test('eight are held, a ninth is refused and the eight stay', () => {
  for (let id = 1; id <= 8; id++) expect(hold(id)).toBe(true);
  expect(hold(9)).toBe(false);
  expect(ids()).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
});

test('a digit is heard; one without a loop is silent', () => {
  hold(3);
  hold(5);
  controller.hearDigit(2);
  controller.hearDigit(3);
  expect(heard).toEqual([5]);
});

test('blind, every digit leads to one of those held, each once; shown again in their order', () => {
  for (let id = 1; id <= 6; id++) hold(id);
  controller.setBlind(true);
  expect(controller.isBlind).toBe(true);
  for (let digit = 1; digit <= 6; digit++) controller.hearDigit(digit);
  expect([...heard].sort()).toEqual([1, 2, 3, 4, 5, 6]);
  controller.setBlind(false);
  expect(controller.isBlind).toBe(false);
  heard = [];
  controller.hearDigit(1);
  expect(heard).toEqual([1]);
});

test('notes stay with their loop; dropped and cleared it is gone', () => {
  hold(3);
  hold(5);
  controller.note(5, 'too busy');
  expect(store.getState().shortlist.entries.map(({ note }) => note)).toEqual(['', 'too busy']);
  controller.drop(3);
  expect(ids()).toEqual([5]);
  controller.clear();
  expect(ids()).toEqual([]);
});
