import { ToastStore } from './toast-store';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

const texts = (toasts: ToastStore) => toasts.store.getState().shown.map(({ text }) => text);
const pass = (seconds: number) => jest.advanceTimersByTime(seconds * 1000);

test('a message goes after eight seconds, each after its own; the latest three are shown', () => {
  const toasts = new ToastStore();
  toasts.show('one', null, false);
  pass(5);
  for (const text of ['two', 'three', 'four']) toasts.show(text, null, false);
  expect(texts(toasts)).toEqual(['two', 'three', 'four']);
  pass(7.9);
  expect(texts(toasts)).toHaveLength(3);
  pass(0.2);
  expect(texts(toasts)).toEqual([]);
});
test('while somebody is at one, none goes, nor one that comes then; left, each has its time again', () => {
  const toasts = new ToastStore();
  toasts.show('one', null, false);
  pass(7);
  toasts.hold();
  toasts.show('two', null, false);
  pass(60);
  expect(texts(toasts)).toEqual(['one', 'two']);
  toasts.letGo();
  pass(7.9);
  expect(texts(toasts)).toEqual(['one', 'two']);
  pass(0.2);
  expect(texts(toasts)).toEqual([]);
});
test('one that is closed under the pointer does not keep the others for ever', () => {
  const toasts = new ToastStore();
  toasts.show('one', null, false);
  toasts.show('two', null, false);
  toasts.hold();
  toasts.hide(toasts.store.getState().shown[0].id);
  expect(texts(toasts)).toEqual(['two']);
  pass(8.1);
  expect(texts(toasts)).toEqual([]);
});
