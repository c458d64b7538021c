import { useEffect, useRef } from 'react';

const keys: readonly (readonly [string, string])[] = [
  ['Space', 'play and stop the project'],
  ['Home', 'back to bar 1'],
  ['↑ ↓', 'move in the list and hear each loop'],
  ['Enter', 'place the loop'],
  ['click', 'hear a loop; again: silence'],
  ['K', 'keep the candidate on the shortlist'],
  ['1 … 8', 'hear what is kept under the digit'],
  ['B', 'blind: hide the names of the shortlist, or reveal'],
  ['C', 'click on the beats, on or off'],
  ['F', 'favourite: the row under the cursor, else what sounds'],
  [', .', 'hear the one before, behind, of the same set'],
  ['L', 'in the list: more like this, or like those chosen'],
  ['G', 'in the list: what goes with it, or with those chosen'],
  ['Alt 1 … 5', 'in the list: stars; Alt 0 takes them away'],
  ['Backspace', 'in the Library: take the last step of the search back'],
  ['N, Delete, Alt ← →', 'on a step of the search: turn it round, take it away, move it'],
  ['H', 'what I heard: back to any of it'],
  ['O', 'open the loop’s page'],
  ['X, Shift ↑ ↓, Ctrl A', 'in the list: choose one, several, all, to edit them together (also Ctrl and click, Shift and click)'],
  ['Esc', 'silence the candidate; in the list: choose none'],
  ['/', 'go to the search'],
  ['[ ]', 'in the ribbon: the repeated range begins, ends at the playhead'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo in the project'],
  ['← →', 'on a clip: a step of the grid earlier or later; Alt: a 16th; Ctrl Alt: a millisecond'],
  ['Shift ← →', 'on a clip: shorter or longer; with Alt: begins later or earlier'],
  ['Ctrl ← →', 'on a clip: moves what is inside'],
  ['Enter', 'on a clip: all that can be done to it, each with its key'],
  ['← →, Shift ← →', 'on the bar numbers: the playhead; the range that goes round'],
  ['+ −, Z, Shift Z', 'on the timeline: zoom in and out, to what is chosen, to all'],
  ['Alt ↑ ↓', 'on a clip: a semitone; on a track’s grip: up or down'],
  ['Shift and click, Ctrl A', 'on the timeline: choose several, all; or drag over them'],
  ['P, O', 'on a clip: its notes, to be edited; the other way to the key'],
  [
    'Enter, ← →',
    'on the chords: writes one at the playhead; from one to the next, with Shift longer, with Alt it begins later; Delete takes it out',
  ],
  ['Tab, arrows', 'in the notes: from note to note; moves what is chosen, with Alt longer, with Ctrl harder; Enter adds, Q quantises'],
  ['1 … 4, Enter, X', 'in Needs an ear: answer, agree with the guess, mark for agreeing with many'],
  ['?', 'this list'],
];

export function ShortcutsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (open) ref.current?.showModal();
    else ref.current?.close();
  }, [open]);
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-labelledby="keys-title">
      <div className="modal-box max-w-md">
        <h2 id="keys-title">Keys</h2>
        <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
          {keys.map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <kbd className="kbd kbd-sm">{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <p className="quiet mt-3">
          On the sofa: open{' '}
          <a className="link" href="/remote">
            the remote
          </a>{' '}
          on a phone. Something late?{' '}
          <a className="link" href="/diagnostics">
            Diagnostics
          </a>{' '}
          shows how the sound is doing.
        </p>
        <form method="dialog" className="mt-4 text-right">
          <button className="btn btn-sm">Close</button>
        </form>
      </div>
      <form method="dialog" className="modal-backdrop">
        <button aria-label="Close">close</button>
      </form>
    </dialog>
  );
}
