import { chooseEngine } from '~core/arrangement/fit-request';
import type { Handling } from '~core/arrangement/treatment';
import { engineRow } from '~core/stretch/engines';
import { EngineSelect } from '~/ui/engine-select';
import type { LoopRow } from '~server/services/loop-rows';

interface HandlingPanelProps {
  readonly row: LoopRow;
  readonly onChange: (handling: Handling) => void;
}

/** How this loop is always made to fit, for everybody: the way of stretching, its tail, and a wandering player's grid. */
export function HandlingPanel({ row: { source }, onChange }: HandlingPanelProps) {
  const handling = source.handling ?? {},
    repeats = source.kind === 'loop' || source.kind === 'full-mix',
    byFactsAlone = { ...source, handling: undefined },
    engine = handling.engine ?? chooseEngine(byFactsAlone),
    set = (changes: { readonly [name in keyof Handling]: Handling[name] | undefined }) =>
      onChange(Object.fromEntries(Object.entries({ ...handling, ...changes }).filter(([, value]) => value !== undefined)));
  return (
    <section>
      <h2>How it is fitted</h2>
      <label className="mt-1 block">
        <span className="quiet">Stretched as</span>
        <EngineSelect
          className="select-sm mt-0.5 w-full"
          source={byFactsAlone}
          value={handling.engine ?? null}
          onChange={(engine) => set({ engine: engine ?? undefined })}
        />
      </label>
      <p className="quiet mt-1">{engineRow(engine).purpose}</p>
      {repeats && (
        <label className="mt-2 block">
          <span className="quiet">What rings on behind the last bar</span>
          <select
            className="select select-sm mt-0.5 w-full"
            value={handling.tail ?? ''}
            onChange={({ target }) => set({ tail: (target.value || undefined) as Handling['tail'] })}
          >
            <option value="">wrapped into the start, unless it is music</option>
            <option value="wrap">wrap the tail</option>
            <option value="cut">cut</option>
          </select>
        </label>
      )}
      {source.beatFrames && (
        <label className="mt-2 block">
          <span className="quiet">Wandering time, drawn onto the grid: {Math.round((handling.gridStrength ?? 0) * 100)} %</span>
          <input
            type="range"
            className="range range-xs mt-1"
            min={0}
            max={100}
            step={10}
            defaultValue={(handling.gridStrength ?? 0) * 100}
            onPointerUp={({ currentTarget }) => set({ gridStrength: Number(currentTarget.value) / 100 || undefined })}
            onKeyUp={({ currentTarget }) => set({ gridStrength: Number(currentTarget.value) / 100 || undefined })}
          />
        </label>
      )}
    </section>
  );
}
