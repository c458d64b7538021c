import { useRef } from 'react';
import { pitchClassName } from '~core/theory/key';
import { useEngine, useEngineState } from '~/audio/hooks';
import { tappedTempo } from '~/audio/tap-tempo';

/** Where no project is in the room: a tempo to tap, a click, and a drone in any key. */
export function FreePanel() {
  const engine = useEngine(),
    { tempoBpm, droneNote } = useEngineState((state) => state.free),
    metronome = useEngineState((state) => state.transportSettings.metronome),
    taps = useRef<number[]>([]);
  const tap = (at: number) => {
    taps.current = [...taps.current, at].slice(-12);
    const tapped = tappedTempo(taps.current);
    if (tapped) engine.setFree({ tempoBpm: tapped });
  };
  return (
    <div role="group" aria-label="Without a project" className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[0.93rem]">
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
        <input
          type="checkbox"
          className="toggle toggle-sm toggle-primary"
          checked={metronome}
          onChange={({ target }) => engine.setTransport({ metronome: target.checked })}
        />
        click
      </label>
      <label className="flex items-center gap-1.5">
        <span className="caps">Drone</span>
        <select
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
    </div>
  );
}
