import { chooseStretchMode } from '~core/arrangement/fit-request';
import type { FitDefaults } from '~core/arrangement/fit-settings';
import { stretchModeRow } from '~core/stretch/stretch-modes';
import { StretchModeSelect } from '~/ui/stretch-mode-select';
import type { WholeLoop } from '~contracts/whole-loop';

interface HandlingPanelProps {
  readonly row: WholeLoop;
  readonly onChange: (fitDefaults: FitDefaults) => void;
}

/** How this loop is always made to fit, for everybody: the way of stretching, its tail, and a wandering player's grid. */
export function FitDefaultsPanel({ row: { source }, onChange }: HandlingPanelProps) {
  const fitDefaults = source.fitDefaults ?? {},
    repeats = source.kind === 'loop' || source.kind === 'full-mix',
    byFactsAlone = { ...source, fitDefaults: undefined },
    engine = fitDefaults.stretchMode ?? chooseStretchMode(byFactsAlone),
    set = (changes: { readonly [name in keyof FitDefaults]: FitDefaults[name] | undefined }) =>
      onChange(Object.fromEntries(Object.entries({ ...fitDefaults, ...changes }).filter(([, value]) => value !== undefined)));
  return (
    <section>
      <h2>How it is fitted</h2>
      <label className="mt-1 block">
        <span className="quiet">Stretched as</span>
        <StretchModeSelect
          className="select-sm mt-0.5 w-full"
          source={byFactsAlone}
          value={fitDefaults.stretchMode ?? null}
          onChange={(engine) => set({ stretchMode: engine ?? undefined })}
        />
      </label>
      <p className="quiet mt-1">{stretchModeRow(engine).purpose}</p>
      {repeats && (
        <label className="mt-2 block">
          <span className="quiet">What rings on behind the last bar</span>
          <select
            className="select select-sm mt-0.5 w-full"
            value={fitDefaults.tail ?? ''}
            onChange={({ target }) => set({ tail: (target.value || undefined) as FitDefaults['tail'] })}
          >
            <option value="">wrapped into the start, unless it is music</option>
            <option value="wrap">wrap the tail</option>
            <option value="cut">cut</option>
          </select>
        </label>
      )}
      {source.beatFrames && (
        <label className="mt-2 block">
          <span className="quiet">Wandering time, drawn onto the grid: {Math.round((fitDefaults.gridStrength ?? 0) * 100)} %</span>
          <input
            type="range"
            className="range range-xs mt-1"
            min={0}
            max={100}
            step={10}
            defaultValue={(fitDefaults.gridStrength ?? 0) * 100}
            onPointerUp={({ currentTarget }) => set({ gridStrength: Number(currentTarget.value) / 100 || undefined })}
            onKeyUp={({ currentTarget }) => set({ gridStrength: Number(currentTarget.value) / 100 || undefined })}
          />
        </label>
      )}
    </section>
  );
}
