import { useRef, useState } from 'react';
import { Piano } from 'lucide-react';
import { chordOfNotes } from '~core/theory/chord-of-notes';
import { noteName, type Key } from '~core/theory/key';
import { useEngine } from '~/audio/hooks';
import { Keyboard } from '~/ui/ear/keyboard';

/** A chord that is played: on the small keyboard, with the computer's keys, on a connected one. */
export function PlayedChord({ musicalKey, onPut }: { musicalKey: Key | null; onPut: (symbol: string) => void }) {
  const engine = useEngine(),
    [isOpen, setOpen] = useState(false),
    [notes, setNotes] = useState<readonly number[]>([]),
    lastMs = useRef(0),
    symbol = chordOfNotes(notes, musicalKey);
  const play = (note: number) => {
    void engine.soundNotes([note]);
    const now = performance.now(),
      // After a while another chord begins.
      goesOn = now - lastMs.current < 2500;
    lastMs.current = now;
    setNotes((before) => (goesOn ? [...new Set([...before, note])].sort((a, b) => a - b) : [note]));
  };
  if (!isOpen)
    return (
      <button className="btn btn-sm self-start" onClick={() => setOpen(true)}>
        <Piano className="size-4" aria-hidden="true" /> Play a chord
      </button>
    );
  return (
    <div className="flex items-end gap-3">
      <Keyboard shares={[]} onPlay={play} />
      <div className="flex flex-col gap-1">
        <span aria-live="polite">
          <span className="block text-lg font-semibold">{symbol ?? (notes.length > 0 ? '?' : 'Play its notes')}</span>
          <span className="quiet">{notes.map(noteName).join(' ')}</span>
        </span>
        <span className="flex gap-1">
          <button className="btn btn-sm btn-primary" disabled={symbol === null} onClick={() => symbol && onPut(symbol)}>
            Put it at the playhead
          </button>
          <button className="btn btn-sm" onClick={() => setNotes([])}>
            Anew
          </button>
        </span>
      </div>
    </div>
  );
}
