import { clipActs, pressOnClip } from './clip-keys';
import type { ClipActs } from './use-acts';

type Pressed = Partial<Pick<React.KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'altKey' | 'metaKey'>>;

/** What a key press comes to: the act and what it is told. */
function press(pressed: Pressed, stepBeats: number | null = 4): string[] {
  const done: string[] = [],
    acts = new Proxy(
      {},
      {
        get:
          (_, name) =>
          (...told: unknown[]) =>
            done.push([String(name), ...told].join(' ')),
      },
    ) as ClipActs,
    event = { shiftKey: false, ctrlKey: false, altKey: false, metaKey: false, ...pressed } as React.KeyboardEvent,
    meant = pressOnClip(event, acts, stepBeats, (dialog) => done.push(`open ${dialog}`));
  expect(meant).toBe(done.length > 0);
  return done;
}

test.each<[string, Pressed, string]>([
  ['→', { key: 'ArrowRight' }, 'move 4 0'],
  ['Alt ←', { key: 'ArrowLeft', altKey: true }, 'move -0.25 0'],
  ['Ctrl Alt →', { key: 'ArrowRight', ctrlKey: true, altKey: true }, 'moveMs 1'],
  ['Shift →', { key: 'ArrowRight', shiftKey: true }, 'lengthen 4'],
  ['Shift Alt →', { key: 'ArrowRight', shiftKey: true, altKey: true }, 'trimStart 4'],
  ['Ctrl →', { key: 'ArrowRight', ctrlKey: true }, 'slip 1'],
  ['S', { key: 's' }, 'cutHere'],
  ['Shift S', { key: 'S', shiftKey: true }, 'cutAtBars'],
  ['Ctrl D', { key: 'd', ctrlKey: true }, 'copyBehind'],
  ['Alt ↑', { key: 'ArrowUp', altKey: true }, 'transpose 1'],
  ['+', { key: '+', shiftKey: true }, 'level 1'],
  ['−', { key: '-' }, 'level -1'],
  ['V', { key: 'v' }, 'open vary'],
  ['Delete', { key: 'Delete' }, 'remove'],
])('%s', (_, pressed, does) => expect(press(pressed)).toEqual([does]));

test('where nothing snaps a step is a quarter of a beat', () => expect(press({ key: 'ArrowRight' }, null)).toEqual(['move 0.25 0']));

test.each<[string, Pressed]>([
  ['Ctrl A chooses all, and is not for a clip', { key: 'a', ctrlKey: true }],
  ['Ctrl S', { key: 's', ctrlKey: true }],
  ['↑ alone', { key: 'ArrowUp' }],
  ['Tab', { key: 'Tab' }],
])('%s: nothing is done', (_, pressed) => expect(press(pressed)).toEqual([]));

test('no two acts have the same keys, and all that have keys hear them', () => {
  const keyed = clipActs.filter(({ keys }) => keys !== '');
  expect(new Set(keyed.map(({ keys }) => keys)).size).toBe(keyed.length);
  for (const { keys, isPressed } of clipActs) expect(isPressed === undefined).toBe(keys === '');
});
