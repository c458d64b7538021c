import { useEffect, useRef, useState } from 'react';
import type { LoopCard } from '~contracts/loop-card';

/** A short note of one's own beside a loop. */
export function NoteDialog({ row, onClose, onKeep }: { row: LoopCard; onClose: () => void; onKeep: (note: string) => void }) {
  const dialog = useRef<HTMLDialogElement>(null),
    [note, setNote] = useState(row.note);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label={`Note on ${row.title}`}>
      <form
        method="dialog"
        className="modal-box"
        onSubmit={(event) => {
          event.preventDefault();
          onKeep(note.trim());
        }}
      >
        <h2>Note on {row.title}</h2>
        <textarea
          className="textarea mt-2 w-full"
          aria-label="Note"
          rows={3}
          maxLength={500}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <div className="mt-3 flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-sm btn-primary">Keep</button>
        </div>
      </form>
    </dialog>
  );
}
