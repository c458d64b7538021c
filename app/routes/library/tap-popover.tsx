import { useRef, useState } from 'react';
import type { Near } from '~core/search/query';
import { Popover } from '~/ui/popover';

const leastTaps = 3,
  mostTaps = 64;

/** A rhythm is tapped, on a key or on the pad, at any tempo; what plays like it is looked for. */
export function TapPopover({ onFind }: { onFind: (near: Near) => void }) {
  const [taps, setTaps] = useState<readonly number[]>([]),
    first = useRef(0);
  const tap = (atMs: number) => {
    setTaps((now) => {
      if (now.length === 0) first.current = atMs;
      return now.length < mostTaps ? [...now, Math.round(atMs - first.current)] : now;
    });
  };
  const last = taps.at(-1) ?? 1;
  return (
    <Popover label="Tap" hint="Tap a rhythm to look for">
      <h2>Tap a rhythm</h2>
      <p className="quiet mt-1">One bar or two, at any tempo, on Space or on the pad.</p>
      <button
        className="mt-2 flex h-20 w-full items-center justify-center rounded-sm border border-base-300 bg-base-200 font-semibold active:bg-base-300"
        onPointerDown={(event) => tap(event.timeStamp)}
        onKeyDown={(event) => {
          if (event.repeat || (event.key !== ' ' && !/^[a-z]$/i.test(event.key))) return;
          event.preventDefault();
          tap(event.timeStamp);
        }}
      >
        {taps.length === 0 ? 'tap here' : `${taps.length} ${taps.length === 1 ? 'tap' : 'taps'}`}
      </button>
      <svg viewBox="0 0 360 24" className="mt-2 h-6 w-full" role="img" aria-label={`${taps.length} taps`}>
        <line x1={0} x2={360} y1={20} y2={20} stroke="var(--grid-strong)" />
        {taps.map((each) => (
          <line
            key={each}
            x1={4 + (each / Math.max(1, last)) * 350}
            x2={4 + (each / Math.max(1, last)) * 350}
            y1={4}
            y2={20}
            stroke="var(--color-primary)"
            strokeWidth={3}
          />
        ))}
      </svg>
      <div className="mt-2 flex gap-2">
        <button
          className="btn btn-sm btn-primary"
          disabled={taps.length < leastTaps}
          onClick={() => onFind({ kind: 'tapped', atMs: taps })}
        >
          Find what plays like it
        </button>
        <button className="btn btn-sm" disabled={taps.length === 0} onClick={() => setTaps([])}>
          Again
        </button>
      </div>
    </Popover>
  );
}
