import { chooseEngine } from '~core/arrangement/fit-request';
import type { Handling } from '~core/arrangement/treatment';
import { engineRow, engineRows } from '~core/stretch/engines';
import type { LoopRow } from '~server/services/loop-rows';

interface HandlingPanelProps {
  readonly row: LoopRow;
  readonly onChange: (handling: Handling) => void;
}

/** How this loop is always made to fit, for everybody: the way of stretching, its tail, and a wandering player's grid. */
export function HandlingPanel({ row: { source }, onChange }: HandlingPanelProps) {
  const handling = source.handling ?? {},
    byFacts = engineRow(chooseEngine({ ...source, handling: undefined })),
    set = (changes: { readonly [name in keyof Handling]: Handling[name] | undefined }) =>
      onChange(Object.fromEntries(Object.entries({ ...handling, ...changes }).filter(([, value]) => value !== undefined)));
  return (
    <section>
      <h2>How it is fitted</h2>
      <label className="mt-1 block">
        <span className="quiet">Stretched as</span>
        <select
          className="select select-sm mt-0.5 w-full"
          value={handling.engine ?? ''}
          onChange={({ target }) => set({ engine: (target.value || undefined) as Handling['engine'] })}
        >
          <option value="">{byFacts.name}, by its facts</option>
          {engineRows.map(({ engine, name }) => (
            <option key={engine} value={engine}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <p className="quiet mt-1">{(handling.engine ? engineRow(handling.engine) : byFacts).purpose}</p>
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
