import { useState } from 'react';
import { useRevalidator } from 'react-router';
import { formatChordLine } from '~core/theory/chord-line';
import type { LoopDetail } from '~contracts/loop-detail';
import { api } from '~/ui/api';
import { askOrTell, withForm } from '~/ui/ask';
import { toast } from '~/ui/toast';

/** The chords of a loop as somebody states them: above what is heard, and by them it follows the chords of a piece. */
export function ChordsSaid({ detail }: { detail: LoopDetail }) {
  const { row, statedChords } = detail,
    { revalidate } = useRevalidator(),
    text = statedChords ? formatChordLine(statedChords.marks, row.source.barBeats) : '',
    [draft, setDraft] = useState<string | null>(null);
  const say = async (chords: string): Promise<void> => {
    if (!(await askOrTell(api.loopChords(row.id), withForm('put', { chords }), 'It could not be kept. Please try again.'))) return;
    setDraft(null);
    void revalidate();
    toast(chords ? 'It follows chords by these from now on.' : 'What is heard counts again.', {
      action: { label: 'Undo', onClick: () => void say(text) },
    });
  };
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void say((draft ?? text).trim());
      }}
    >
      <label className="flex flex-col gap-0.5">
        <span className="caps">Its chords, if you know them: one a bar; a dot keeps the one before; a comma parts a bar</span>
        <input
          className="input input-sm w-96"
          placeholder="Dm7 . G7 C"
          value={draft ?? text}
          onChange={({ target }) => setDraft(target.value)}
        />
      </label>
      <button className="btn btn-sm" disabled={draft === null || draft.trim() === text}>
        Say so
      </button>
      {statedChords && (
        <>
          <button type="button" className="btn btn-sm" onClick={() => void say('')}>
            Let it be heard
          </button>
          <span className="quiet pb-1.5">
            {statedChords.source === 'person' ? `said by ${statedChords.by}` : `made over them, in “${statedChords.by}”`}
          </span>
        </>
      )}
    </form>
  );
}
