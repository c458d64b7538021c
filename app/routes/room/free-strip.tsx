import { useRef } from 'react';
import { pitchClassName } from '~core/theory/key';
import { useEngine, useEngineState } from '~/audio/hooks';
import { tappedTempo } from '~/audio/tap-tempo';

const hint = 'Choose a project at the top: all is heard inside it.';

/** In the place of a project's bars where none is in the room: a tempo, typed or tapped, and a drone or chord in any key. */
export function FreeStrip() {
  const engine = useEngine(),
    { tempoBpm, droneNote, droneThird } = useEngineState((state) => state.free),
    taps = useRef<number[]>([]);
  const tap = (at: number) => {
    taps.current = [...taps.current, at].slice(-12);
    const tapped = tappedTempo(taps.current);
    if (tapped) engine.setFree({ tempoBpm: tapped });
  };
  return (
    <div
      role="group"
      aria-label="Without a project"
      className="flex min-w-0 flex-1 items-center gap-x-4 overflow-hidden rounded-sm border border-base-300 bg-base-100 px-3 text-[0.93rem]"
    >
      <label className="flex items-center gap-1.5">
        <span className="caps">Tempo</span>
        <input
          type="number"
          className="input input-xs w-20"
          min={30}
          max={300}
          step={0.1}
          value={tempoBpm}
          onChange={({ target }) => {
            if (target.valueAsNumber >= 30 && target.valueAsNumber <= 300) engine.setFree({ tempoBpm: target.valueAsNumber });
          }}
        />
      </label>
      <button
        className="btn btn-xs"
        onPointerDown={({ timeStamp }) => tap(timeStamp)}
        onKeyDown={({ key, timeStamp, repeat }) => key === 'Enter' && !repeat && tap(timeStamp)}
      >
        Tap
      </button>
      <label className="flex items-center gap-1.5">
        <span className="caps">Drone</span>
        <select
          aria-label="Drone"
          className="select select-xs w-20"
          value={droneNote ?? ''}
          onChange={({ target }) => engine.setFree({ droneNote: target.value ? Number(target.value) : null })}
        >
          <option value="">none</option>
          {Array.from({ length: 12 }, (_, k) => (
            <option key={k} value={48 + k}>
              {pitchClassName(k)}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center">
        <span className="sr-only">Drone as</span>
        <select
          aria-label="Drone as"
          className="select select-xs w-28"
          disabled={droneNote === null}
          value={droneThird ?? ''}
          onChange={({ target }) => engine.setFree({ droneThird: target.value === '' ? null : target.value === '3' ? 3 : 4 })}
        >
          <option value="">with its fifth</option>
          <option value="4">major chord</option>
          <option value="3">minor chord</option>
        </select>
      </label>
      <p className="quiet min-w-0 flex-1 truncate max-lg:hidden" title={hint}>
        {hint}
      </p>
    </div>
  );
}
