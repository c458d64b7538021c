import { useState } from 'react';
import { Dices } from 'lucide-react';
import { drumPattern, drumStyles, kitPartLabels, kitParts, type DrumWishes } from '~core/arrangement/pattern/drum-pattern';
import type { Pattern } from '~core/arrangement/pattern/pattern';
import { newId } from '~/ui/new-id';
import { Range } from './range';
import type { NoteActs } from './use-note-acts';

/** Drums put together from wishes, in the place of the pattern's notes; they are notes like any others afterwards. */
export function DrumWishesForm({
  pattern,
  barBeats,
  acts,
  onMade,
}: {
  pattern: Pattern;
  barBeats: number;
  acts: NoteActs;
  onMade: () => void;
}) {
  const [wishes, setWishes] = useState<Omit<DrumWishes, 'bars' | 'barBeats'>>({
      styleId: drumStyles[0].id,
      busy: 0.4,
      hard: 0.7,
      swing: 0,
      fillEveryBars: 4,
      parts: new Set(['kick', 'snare', 'hats', 'cymbals', 'toms']),
      seed: 1,
    }),
    bars = Math.max(1, Math.round(pattern.lengthBeats / barBeats));
  const make = (next = wishes) => {
    setWishes(next);
    acts.put(
      drumPattern({ ...next, bars, barBeats }, newId),
      pattern.notes.map(({ id }) => id),
    );
    onMade();
  };
  const share = (name: 'busy' | 'hard' | 'swing', label: string) => (
    <Range
      label={label}
      value={Math.round(wishes[name] * 100)}
      unit="%"
      onChange={(value) => setWishes({ ...wishes, [name]: value / 100 })}
    />
  );
  return (
    <>
      <h2>Drums by wishes</h2>
      <label className="mt-2 flex items-center gap-2">
        <span className="caps w-20">Style</span>
        <select
          className="select select-sm flex-1"
          value={wishes.styleId}
          onChange={({ target }) => setWishes({ ...wishes, styleId: target.value })}
        >
          {drumStyles.map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
      </label>
      {share('busy', 'How busy')}
      {share('hard', 'How hard')}
      {share('swing', 'Swing')}
      <label className="mt-2 flex items-center gap-2">
        <span className="caps w-20">A fill</span>
        <select
          className="select select-sm flex-1"
          value={wishes.fillEveryBars}
          onChange={({ target }) => setWishes({ ...wishes, fillEveryBars: Number(target.value) })}
        >
          {[0, 2, 4, 8, 16].map((every) => (
            <option key={every} value={every}>
              {every === 0 ? 'never' : `every ${every} bars`}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
        <legend className="caps">What plays</legend>
        {kitParts.map((part) => (
          <label key={part} className="flex items-center gap-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={wishes.parts.has(part)}
              onChange={({ target }) => {
                const parts = new Set(wishes.parts);
                if (target.checked) parts.add(part);
                else parts.delete(part);
                setWishes({ ...wishes, parts });
              }}
            />
            {kitPartLabels[part]}
          </label>
        ))}
      </fieldset>
      <div className="mt-3 flex items-center gap-2">
        <button className="btn btn-sm btn-primary" onClick={() => make()}>
          Make {bars === 1 ? 'the bar' : `the ${bars} bars`}
        </button>
        <button className="btn btn-sm" onClick={() => make({ ...wishes, seed: wishes.seed + 1 })}>
          <Dices className="size-4" aria-hidden="true" /> Another
        </button>
        <span className="quiet">no. {wishes.seed}</span>
      </div>
    </>
  );
}
