import type { BarChord } from '~core/arrangement/harmony/find-chords';

/** From here a chord is taken with the others; what is less sure waits for an ear. */
const sure = 0.6;

/** Chords that were found, bar by bar, with how sure each is and what else it could be; each is taken by itself, or all that are sure. */
export function FoundChords({
  found,
  bar,
  onTake,
  onTakeAll,
  onLeave,
}: {
  found: readonly BarChord[];
  bar: number;
  onTake: (chord: BarChord, symbol: string) => void;
  onTakeAll: (chords: readonly BarChord[]) => void;
  onLeave: () => void;
}) {
  const clear = found.filter(({ probability }) => probability >= sure);
  return (
    <div className="rounded-sm border border-base-300 p-2">
      <ol className="flex max-h-28 flex-wrap gap-1.5 overflow-y-auto" aria-label="Chords found">
        {found.map((chord) => (
          <li key={chord.startBeat} className="flex items-center gap-1 rounded-sm bg-base-100 px-1.5 py-0.5">
            <span className="quiet">{Math.floor(chord.startBeat / bar + 1e-6) + 1}</span>
            {[chord, ...chord.rivals.filter(({ probability }) => probability > 0.12)].map(({ symbol, probability }, k) => (
              <button
                key={symbol}
                className={`btn btn-xs ${k === 0 ? '' : 'btn-ghost font-normal'}`}
                aria-label={`Bar ${Math.floor(chord.startBeat / bar + 1e-6) + 1}: take ${symbol}, ${Math.round(probability * 100)} %`}
                onClick={() => onTake(chord, symbol)}
              >
                {symbol} <span className="quiet font-normal">{Math.round(probability * 100)} %</span>
              </button>
            ))}
          </li>
        ))}
      </ol>
      <div className="mt-1.5 flex gap-2">
        <button className="btn btn-xs btn-primary" disabled={clear.length === 0} onClick={() => onTakeAll(clear)}>
          Take the {clear.length} that are clear
        </button>
        <button className="btn btn-xs" onClick={onLeave}>
          Leave them
        </button>
      </div>
    </div>
  );
}
