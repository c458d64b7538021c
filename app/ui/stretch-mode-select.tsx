import { chooseStretchMode, type LoopSource } from '~core/arrangement/fit-request';
import { stretchModeRow, stretchModeRows, type StretchMode } from '~core/stretch/stretch-modes';

interface EngineSelectProps {
  readonly source: LoopSource;
  /** null: as the loop's facts and people say. */
  readonly value: StretchMode | null;
  readonly onChange: (engine: StretchMode | null) => void;
  readonly className: string;
}

/** How something is stretched: by the loop's facts, or one of the engines. */
export function StretchModeSelect({ source, value, onChange, className }: EngineSelectProps) {
  return (
    <select
      className={`select ${className}`}
      aria-label="Stretched as"
      value={value ?? ''}
      onChange={({ target }) => onChange((target.value || null) as StretchMode | null)}
    >
      <option value="">{stretchModeRow(chooseStretchMode(source)).name}, by itself</option>
      {stretchModeRows.map(({ mode: engine, name }) => (
        <option key={engine} value={engine}>
          {name}
        </option>
      ))}
    </select>
  );
}
