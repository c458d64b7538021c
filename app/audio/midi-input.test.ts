import { keyOf, listenToKeys } from './midi-input';

test('note on, note off, and note on with velocity 0 (MIDI 1.0)', () => {
  expect(keyOf([0x93, 60, 100])).toEqual({ note: 60, velocity: 100 });
  expect(keyOf([0x80, 60, 64])).toEqual({ note: 60, velocity: 0 });
  expect(keyOf([0x90, 60, 0])).toEqual({ note: 60, velocity: 0 });
  expect(keyOf([0xb0, 7, 100])).toBeNull();
  expect(keyOf([0xf8])).toBeNull();
});

describe('a connected instrument', () => {
  const original = Object.getOwnPropertyDescriptor(globalThis, 'navigator');
  const input: { onmidimessage: ((event: { data: number[] }) => void) | null } = { onmidimessage: null };
  const give = (navigator: object) => Object.defineProperty(globalThis, 'navigator', { value: navigator, configurable: true });
  afterAll(() => original && Object.defineProperty(globalThis, 'navigator', original));

  test('is heard until one stops listening', async () => {
    give({ requestMIDIAccess: async () => ({ inputs: new Map([['one', input]]), onstatechange: null }) });
    const heard: [number, number][] = [],
      stop = await listenToKeys((note, velocity) => heard.push([note, velocity]));
    input.onmidimessage?.({ data: [0x90, 64, 90] });
    input.onmidimessage?.({ data: [0x80, 64, 0] });
    expect(heard).toEqual([
      [64, 90],
      [64, 0],
    ]);
    stop?.();
    expect(input.onmidimessage).toBeNull();
  });
  test('that the browser has not, or may not have, is no error', async () => {
    give({});
    expect(await listenToKeys(() => {})).toBeNull();
    give({ requestMIDIAccess: () => Promise.reject(new Error('no')) });
    expect(await listenToKeys(() => {})).toBeNull();
  });
});
