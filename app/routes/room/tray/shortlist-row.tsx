import { memo, useState } from 'react';
import { Eye, EyeOff, ListPlus, ListX, Play, Square, X } from 'lucide-react';
import type { WholeLoop } from '~contracts/whole-loop';
import { nameApart } from '~/ui/name-apart';
import { describeFit } from '~core/arrangement/fit-request';
import { useEngine, useEngineState } from '~/audio/hooks';
import { digitOf, entryAt, shortlistPlaces } from '~/audio/shortlist';
import { usePlace } from '~/ui/place';
import { toast } from '~/ui/toast';

/** Up to eight held candidates, switched in place by their digits; blind, names give way to numbers. */
export const ShortlistRow = memo(function ShortlistRow() {
  const engine = useEngine(),
    place = usePlace(),
    shortlist = useEngineState((state) => state.shortlist),
    candidate = useEngineState((state) => state.candidate),
    handsFree = useEngineState((state) => state.handsFree),
    [barsEach, setBarsEach] = useState(4),
    { entries, blind } = shortlist,
    sounding = candidate ? digitOf(shortlist, candidate.row.id) : null,
    chosen = sounding === null ? null : entryAt(shortlist, sounding);
  const keep = () => {
    if (!engine.audition.shortlist.keepCandidate()) toast.error('The shortlist is full. Drop one first.');
  };
  const walk = async (bars: number | null) => {
    if (!(await engine.audition.handsFree.set(bars))) toast.error('There is no list here to walk through. Open the Library first.');
  };
  const rows = entries.map(({ row }) => row);
  return (
    <div
      role="group"
      aria-label="Shortlist"
      className="flex h-9 shrink-0 items-center gap-1.5 overflow-x-auto border-t border-base-300 bg-base-200 px-3 text-[0.9rem] whitespace-nowrap"
    >
      <button className="btn btn-xs" disabled={!candidate || sounding !== null} onClick={keep} title="Hold the candidate (K)">
        <ListPlus className="size-3.5" /> Keep
      </button>
      <ol className="flex items-center gap-1">
        {Array.from({ length: Math.max(entries.length, 1) }, (_, k) => k + 1).map((digit) => {
          const entry = entryAt(shortlist, digit);
          if (!entry)
            return (
              <li key={digit} className="quiet px-1">
                Keep up to {shortlistPlaces} candidates and switch between them by their digits.
              </li>
            );
          return (
            <li key={digit}>
              <button
                className={`btn btn-xs max-w-36 ${digit === sounding ? 'btn-primary' : ''}`}
                aria-pressed={digit === sounding}
                title={
                  blind
                    ? `Hear number ${digit} (${digit})`
                    : `${titleApart(entry.row, rows)} · ${entry.note || describeFit(engine.audition.fit(entry.row.source, entry.overrides))} (${digit})`
                }
                onClick={() => engine.audition.shortlist.hearDigit(digit)}
              >
                <kbd className="tabular-nums">{digit}</kbd>
                <span className="truncate">{blind ? '?' : titleApart(entry.row, rows)}</span>
              </button>
            </li>
          );
        })}
      </ol>
      {chosen && !blind && (
        <>
          <input
            key={chosen.row.id}
            className="input input-xs w-32"
            placeholder="a note"
            aria-label={`Note on ${chosen.row.title}`}
            defaultValue={chosen.note}
            onBlur={({ target }) => engine.audition.shortlist.note(chosen.row.id, target.value)}
          />
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Drop ${chosen.row.title}`}
            title="Drop it"
            onClick={() => engine.audition.shortlist.drop(chosen.row.id)}
          >
            <X className="size-3.5" />
          </button>
        </>
      )}
      {candidate && sounding !== null && (
        <button
          className="btn btn-xs"
          onClick={() =>
            place({ row: candidate.row, overrides: candidate.overrides, offsetBeats: candidate.offsetBeats, dropShortlist: true })
          }
          title="Place this one and forget the others"
        >
          <ListX className="size-3.5" /> Place, drop the rest
        </button>
      )}
      {entries.length > 1 && (
        <button
          className={`btn btn-xs ${blind ? 'btn-neutral' : ''}`}
          aria-pressed={blind !== null}
          title="Names hidden, order shuffled, level even: choose by ear"
          onClick={() => engine.audition.shortlist.setBlind(blind === null)}
        >
          {blind ? <Eye className="size-3.5" /> : <EyeOff className="size-3.5" />}
          {blind ? 'Reveal' : 'Blind'}
        </button>
      )}
      <span className="ml-auto flex items-center gap-1.5">
        {handsFree && <span className="quiet max-lg:hidden">Space keeps, any other key skips, Esc ends</span>}
        <label className="flex items-center gap-1">
          <span className="caps">Hands-free</span>
          <select
            aria-label="Bars each, hands-free"
            className="select select-xs w-22"
            value={handsFree?.barsEach ?? barsEach}
            onChange={({ target }) => {
              // Choosing begins nothing; what walks already goes on so.
              setBarsEach(Number(target.value));
              if (handsFree) void walk(Number(target.value));
            }}
          >
            {[1, 2, 4, 8].map((bars) => (
              <option key={bars} value={bars}>
                {bars} {bars === 1 ? 'bar' : 'bars'}
              </option>
            ))}
          </select>
        </label>
        <button
          className={`btn btn-xs btn-square ${handsFree ? 'btn-neutral' : ''}`}
          aria-label={handsFree ? 'End hands-free' : 'Walk through the list by itself'}
          title={handsFree ? 'End hands-free (Esc)' : 'Walk through the list by itself'}
          onClick={() => void walk(handsFree ? null : barsEach)}
        >
          {handsFree ? <Square className="size-3" fill="currentColor" /> : <Play className="size-3.5" />}
        </button>
      </span>
    </div>
  );
});

/** A name, and what sets it apart from others of that name on the list. */
function titleApart(row: WholeLoop, among: readonly WholeLoop[]): string {
  const mark = nameApart(row, among);
  return mark ? `${row.title} (${mark})` : row.title;
}
