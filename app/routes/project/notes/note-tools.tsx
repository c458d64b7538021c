import { useState } from 'react';
import type { Pattern } from '~core/arrangement/pattern/pattern';
import { keyName, type Key } from '~core/theory/key';
import { Popover } from '~/ui/popover';
import { DrumWishesForm } from './drum-wishes';
import { Range } from './range';
import type { NoteActs } from './use-note-acts';

export const noteGrids = [
  { beats: 1, label: '1/4' },
  { beats: 1 / 2, label: '1/8' },
  { beats: 1 / 3, label: '1/8 triplet' },
  { beats: 1 / 4, label: '1/16' },
  { beats: 1 / 6, label: '1/16 triplet' },
  { beats: 1 / 8, label: '1/32' },
] as const;

/** What can be done to the chosen notes, or to all where none is chosen. */
export function NoteTools({
  pattern,
  acts,
  chosenCount,
  gridBeats,
  onGrid,
  musicalKey,
  barBeats,
  onChoose,
}: {
  pattern: Pattern;
  acts: NoteActs;
  chosenCount: number;
  gridBeats: number;
  onGrid: (beats: number) => void;
  musicalKey: Key | null;
  barBeats: number;
  onChoose: (ids: Iterable<string>) => void;
}) {
  const [strength, setStrength] = useState(100),
    [swing, setSwing] = useState(0),
    [amount, setAmount] = useState(40),
    [seed, setSeed] = useState(1);
  return (
    <div role="toolbar" aria-label="Notes" className="flex flex-wrap items-center gap-1.5">
      <label className="flex items-center gap-1">
        <span className="caps">Grid</span>
        <select
          className="select select-xs w-28"
          aria-label="Grid of notes"
          value={gridBeats}
          onChange={({ target }) => onGrid(Number(target.value))}
        >
          {noteGrids.map(({ beats, label }) => (
            <option key={label} value={beats}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <span className="quiet" role="status">
        {chosenCount === 0 ? `all ${pattern.notes.length}` : chosenCount} {chosenCount === 1 ? 'note' : 'notes'}
      </span>
      <Popover label="Quantise …">
        <h2>Onto the grid</h2>
        <Range label="Strength" value={strength} unit="%" onChange={setStrength} />
        <Range label="Swing" value={swing} unit="%" onChange={setSwing} />
        <button className="btn btn-sm btn-primary mt-2" onClick={() => acts.quantise(gridBeats, strength / 100, swing / 100)}>
          Quantise
        </button>
      </Popover>
      <Popover label="Humanise …">
        <h2>As a player would</h2>
        <Range label="How much" value={amount} unit="%" onChange={setAmount} />
        <label className="mt-2 flex items-center gap-2">
          <span className="caps">Seed</span>
          <input
            type="number"
            className="input input-sm w-24"
            min={1}
            value={seed}
            onChange={({ target }) => setSeed(Math.max(1, Math.round(target.valueAsNumber) || 1))}
          />
        </label>
        <button className="btn btn-sm btn-primary mt-2" onClick={() => acts.humanise(amount / 100, seed)}>
          Humanise
        </button>
      </Popover>
      {!pattern.isDrums && (
        <span className="flex items-center gap-1">
          {[-12, -1, 1, 12].map((by) => (
            <button
              key={by}
              className="btn btn-xs"
              aria-label={`${by > 0 ? `+${by}` : `−${-by}`}: ${Math.abs(by) === 12 ? 'an octave' : 'a semitone'} ${by > 0 ? 'up' : 'down'}`}
              onClick={() => acts.transpose(by)}
            >
              {by > 0 ? `+${by}` : `−${-by}`}
            </button>
          ))}
          {musicalKey &&
            [-1, 1].map((by) => (
              <button
                key={`scale ${by}`}
                className="btn btn-xs"
                title={`A step of ${keyName(musicalKey)}`}
                aria-label={`step ${by > 0 ? '↑' : '↓'} of the scale`}
                onClick={() => acts.inScale(musicalKey, by)}
              >
                {by > 0 ? 'step ↑' : 'step ↓'}
              </button>
            ))}
          <button className="btn btn-xs" title="Each note held until the next" onClick={() => acts.legato()}>
            Legato
          </button>
        </span>
      )}
      <button className="btn btn-xs" onClick={() => acts.reverse()}>
        Backwards
      </button>
      <button className="btn btn-xs" title="The same once more behind (Ctrl D)" onClick={() => acts.onceMore(gridBeats)}>
        Once more
      </button>
      <button className="btn btn-xs" disabled={chosenCount === 0} onClick={() => acts.remove()}>
        Take out
      </button>
      {pattern.isDrums && (
        <Popover label="Drums by wishes …">
          <DrumWishesForm pattern={pattern} barBeats={barBeats} acts={acts} onMade={() => onChoose([])} />
        </Popover>
      )}
    </div>
  );
}
