import type { Recording } from './record-sound';
import { Recorder } from './recorder';

/** Microphones that open when they are told to; `on` is how many are. */
function microphones() {
  const opened: (() => void)[] = [],
    denied: (() => void)[] = [],
    fulls: (() => void)[] = [];
  let on = 0;
  const open = (_: AudioContext | null, onFull: () => void) =>
    new Promise<Recording>((resolve, reject) => {
      fulls.push(onFull);
      denied.push(() => reject(new Error('not allowed')));
      opened.push(() => {
        on++;
        let isOn = true;
        const stop = (fromFrame?: number) => {
          if (isOn) on--;
          isOn = false;
          return new Blob([String(fromFrame)]);
        };
        resolve({ latencyMs: 0, stop });
      });
    });
  return { recorder: new Recorder(open), opened, denied, fulls, on: () => on };
}
const nothing = () => {};

test('a take is ended once, from the frame that is asked for', async () => {
  const { recorder, opened, on } = microphones(),
    begun = recorder.start(null, nothing);
  opened[0]();
  expect(await begun).not.toBeNull();
  expect(on()).toBe(1);
  expect(await recorder.end(480)?.text()).toBe('480');
  expect(on()).toBe(0);
  expect(recorder.end()).toBeNull();
});
test('who leaves while the browser asks for the microphone is not recorded when it is allowed', async () => {
  const { recorder, opened, on } = microphones(),
    begun = recorder.start(null, nothing);
  recorder.giveUp();
  opened[0]();
  expect(await begun).toBeNull();
  expect(on()).toBe(0);
});
test('begun twice, one microphone is on, whichever opens first', async () => {
  const { recorder, opened, on } = microphones(),
    both = [recorder.start(null, nothing), recorder.start(null, nothing)];
  opened[1]();
  opened[0]();
  expect((await Promise.all(both)).map((take) => take !== null)).toEqual([false, true]);
  expect(on()).toBe(1);
  recorder.giveUp();
  expect(on()).toBe(0);
});
test('a take that is full is told of, and one that is over no more', async () => {
  const { recorder, opened, fulls } = microphones();
  let full = 0;
  const begun = recorder.start(null, () => full++);
  opened[0]();
  await begun;
  fulls[0]();
  expect(full).toBe(1);
  recorder.end();
  fulls[0]();
  expect(full).toBe(1);
});
test('a microphone that may not be used is told, and the next begins anew', async () => {
  const recorder = new Recorder(() => Promise.reject(new Error('not allowed')));
  await expect(recorder.start(null, nothing)).rejects.toThrow('not allowed');
  expect(recorder.end()).toBeNull();
});
test('that one may not be used which was given up is told to nobody, least of all to who is recorded by now', async () => {
  const { recorder, opened, denied, on } = microphones(),
    given = recorder.start(null, nothing);
  recorder.giveUp();
  const begun = recorder.start(null, nothing);
  opened[1]();
  denied[0]();
  expect(await given).toBeNull();
  expect(await begun).not.toBeNull();
  expect(on()).toBe(1);
});
