import { useState } from 'react';
import { Star } from 'lucide-react';
import type { LoopCard } from '~contracts/loop-card';
import type { Rating } from '~contracts/rating';

/** One's own stars and note, and what the others think. */
export function Rated({
  row,
  ratings,
  onStars,
  onNote,
}: {
  row: LoopCard;
  ratings: readonly Rating[];
  onStars: (stars: number | null) => void;
  onNote: (note: string) => void;
}) {
  const [note, setNote] = useState(row.note),
    others = ratings.filter(({ isOwn }) => !isOwn);
  return (
    <section>
      <h2>Stars and note</h2>
      <div className="mt-1 flex" role="radiogroup" aria-label="My stars">
        {[1, 2, 3, 4, 5].map((stars) => (
          <button
            key={stars}
            role="radio"
            aria-checked={row.stars === stars}
            className="btn btn-ghost btn-sm btn-square"
            aria-label={`${stars} ${stars === 1 ? 'star' : 'stars'}`}
            onClick={() => onStars(row.stars === stars ? null : stars)}
          >
            <Star className="size-4" fill={(row.stars ?? 0) >= stars ? 'var(--color-accent)' : 'none'} />
          </button>
        ))}
      </div>
      <form
        className="mt-1 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onNote(note.trim());
        }}
      >
        <input
          className="input input-sm min-w-0 flex-1"
          aria-label="My note"
          placeholder="A short note of mine"
          maxLength={500}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <button className="btn btn-sm" disabled={note.trim() === row.note}>
          Keep
        </button>
      </form>
      {others.length > 0 && (
        <ul className="mt-2 grid gap-1">
          {others.map(({ person, stars, note: words }) => (
            <li key={person}>
              {stars !== null && <span aria-label={`${stars} of 5 stars`}>{'★'.repeat(stars)} </span>}
              {words && <q>{words}</q>} <span className="quiet">{person}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
