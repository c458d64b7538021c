import { useEffect, useId, useRef, useState } from 'react';
import { degreeOf } from '~core/theory/degrees';
import type { Key } from '~core/theory/key';
import { suggestChords } from '~core/theory/suggest-chords';

/** A chord being written, with what it may become: arrows choose, Enter takes, Escape leaves; written empty it is taken out. */
export function ChordInput({
  left,
  initial,
  musicalKey,
  onWrite,
  onLeave,
}: {
  left: number;
  initial: string;
  musicalKey: Key | null;
  /** Whether it was taken. */
  onWrite: (symbol: string) => boolean;
  onLeave: () => void;
}) {
  const [text, setText] = useState(initial),
    [at, setAt] = useState(-1),
    input = useRef<HTMLInputElement>(null),
    id = useId(),
    found = suggestChords(text === initial ? '' : text, musicalKey, 9);
  useEffect(() => input.current?.select(), []);
  return (
    <div className="absolute top-0 z-30" style={{ left }}>
      <input
        ref={input}
        className="input input-xs w-28 bg-base-100 font-semibold"
        aria-label="Chord"
        role="combobox"
        aria-expanded={found.length > 0}
        aria-controls={id}
        aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
        autoComplete="off"
        spellCheck={false}
        value={text}
        onChange={({ target }) => {
          setText(target.value);
          setAt(-1);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') onLeave();
          else if (event.key === 'Enter') onWrite((at >= 0 ? found[at] : text).trim());
          else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setAt((before) => Math.max(-1, Math.min(found.length - 1, before + (event.key === 'ArrowDown' ? 1 : -1))));
          }
        }}
        onBlur={() => {
          if (text.trim() === initial || !onWrite(text.trim())) onLeave();
        }}
      />
      {found.length > 0 && (
        <ul id={id} role="listbox" aria-label="Chords" className="panel absolute mt-0.5 w-28 bg-base-100 py-0.5 shadow-md">
          {found.map((symbol, k) => (
            <li
              key={symbol}
              id={`${id}-${k}`}
              role="option"
              aria-selected={k === at}
              className={`flex cursor-pointer justify-between px-2 py-0.5 ${k === at ? 'bg-base-300' : 'hover:bg-base-200'}`}
              // Before the field is left.
              onPointerDown={(event) => {
                event.preventDefault();
                onWrite(symbol);
              }}
            >
              {symbol}
              {musicalKey && <span className="quiet">{degreeOf(symbol, musicalKey)}</span>}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
