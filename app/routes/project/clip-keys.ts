import type { ClipActs } from './use-acts';

/** Dialogs that an act opens. */
export type ClipDialog = 'accent' | 'vary' | 'instead' | 'give-back' | 'notes';

/** One thing that can be done to chosen clips: what the menu, the keys and the help say of it is this. */
export interface ClipAct {
  readonly words: string;
  readonly keys: string;
  /** Whether a key press is meant for it; none for what has no key. */
  readonly isPressed?: (event: React.KeyboardEvent) => boolean;
  readonly run: (acts: ClipActs, open: (dialog: ClipDialog) => void) => void;
  /** A line stands before it in the menu. */
  readonly begins?: boolean;
}

const plain =
    (key: string, shift = false) =>
    (event: React.KeyboardEvent) =>
      !event.ctrlKey && !event.metaKey && !event.altKey && event.shiftKey === shift && event.key.toLowerCase() === key,
  withCtrl = (key: string) => (event: React.KeyboardEvent) => (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === key;

export const clipActs: readonly ClipAct[] = [
  { words: 'Cut at the playhead', keys: 'S', isPressed: plain('s'), run: (acts) => acts.cutHere() },
  { words: 'Cut at each bar', keys: 'Shift S', isPressed: plain('s', true), run: (acts) => acts.cutAtBars() },
  { words: 'Cut at the lines of sections', keys: '', run: (acts) => acts.cutAtSections() },
  { words: 'This repetition apart', keys: 'N', isPressed: plain('n'), run: (acts) => acts.apart() },
  { words: 'Join', keys: 'J', isPressed: plain('j'), run: (acts) => acts.join() },
  { words: 'Repeat to the end of the section', keys: 'E', isPressed: plain('e'), run: (acts) => acts.toSectionEnd(), begins: true },
  { words: 'Repeat to the end of the project', keys: 'Shift E', isPressed: plain('e', true), run: (acts) => acts.toProjectEnd() },
  { words: 'Repeat once more', keys: 'R', isPressed: plain('r'), run: (acts) => acts.onceMore() },
  { words: 'Repeat only what lies in the range', keys: 'Shift R', isPressed: plain('r', true), run: (acts) => acts.repeatPart() },
  { words: 'Copy behind', keys: 'Ctrl D', isPressed: withCtrl('d'), run: (acts) => acts.copyBehind() },
  { words: 'Mute, or unmute', keys: 'M', isPressed: plain('m'), run: (acts) => acts.mute(), begins: true },
  { words: 'Crossfade what overlaps', keys: 'X', isPressed: plain('x'), run: (acts) => acts.crossfade() },
  { words: 'Break in the range', keys: '', run: (acts) => acts.breakInRange() },
  { words: 'Break in the range, ringing on', keys: '', run: (acts) => acts.breakRinging() },
  {
    words: 'Up a semitone',
    keys: 'Alt ↑',
    isPressed: (event) => event.altKey && !event.ctrlKey && event.key === 'ArrowUp',
    run: (acts) => acts.transpose(1),
    begins: true,
  },
  {
    words: 'Down a semitone',
    keys: 'Alt ↓',
    isPressed: (event) => event.altKey && !event.ctrlKey && event.key === 'ArrowDown',
    run: (acts) => acts.transpose(-1),
  },
  { words: 'Louder by 1 dB', keys: '+', isPressed: (event) => event.key === '+' && !event.ctrlKey, run: (acts) => acts.level(1) },
  { words: 'Softer by 1 dB', keys: '−', isPressed: (event) => event.key === '-' && !event.ctrlKey, run: (acts) => acts.level(-1) },
  { words: 'All as it came', keys: '', run: (acts) => acts.asTheyCame() },
  { words: 'The other way to the key', keys: 'O', isPressed: plain('o'), run: (acts) => acts.otherWay() },
  { words: 'Edit its notes', keys: 'P', isPressed: plain('p'), run: (_, open) => open('notes'), begins: true },
  { words: 'Move the accent …', keys: 'A', isPressed: plain('a'), run: (_, open) => open('accent') },
  { words: 'Variation …', keys: 'V', isPressed: plain('v'), run: (_, open) => open('vary') },
  { words: 'Instead of it …', keys: 'I', isPressed: plain('i'), run: (_, open) => open('instead') },
  { words: 'Give back to the library …', keys: 'G', isPressed: plain('g'), run: (_, open) => open('give-back'), begins: true },
  {
    words: 'Remove',
    keys: 'Delete',
    isPressed: (event) => event.key === 'Delete' || event.key === 'Backspace',
    run: (acts) => acts.remove(),
    begins: true,
  },
];

/** Does what a key press on a clip means. @param stepBeats of the grid; null where nothing snaps @returns whether it meant anything */
export function pressOnClip(
  event: React.KeyboardEvent,
  acts: ClipActs,
  stepBeats: number | null,
  open: (dialog: ClipDialog) => void,
): boolean {
  const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0,
    control = event.ctrlKey || event.metaKey,
    grid = stepBeats ?? 1 / 4;
  if (way !== 0) {
    if (control && event.altKey) acts.moveMs(way);
    else if (event.shiftKey && event.altKey) acts.trimStart(way * grid);
    else if (event.shiftKey) acts.lengthen(way * grid);
    else if (control) acts.slip(way * Math.min(1, grid));
    else if (event.altKey) acts.move(way / 4, 0);
    else acts.move(way * grid, 0);
    return true;
  }
  const act = clipActs.find(({ isPressed }) => isPressed?.(event));
  act?.run(acts, open);
  return act !== undefined;
}
