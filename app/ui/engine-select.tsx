import { chooseEngine, type LoopSource } from '~core/arrangement/fit-request';
import { engineRow, engineRows, type StretchEngine } from '~core/stretch/engines';

interface EngineSelectProps {
  readonly source: LoopSource;
  /** null: as the loop's facts and people say. */
  readonly value: StretchEngine | null;
  readonly onChange: (engine: StretchEngine | null) => void;
  readonly className: string;
}

/** How something is stretched: by the loop's facts, or one of the engines. */
export function EngineSelect({ source, value, onChange, className }: EngineSelectProps) {
  return (
    <select
      className={`select ${className}`}
      aria-label="Stretched as"
      value={value ?? ''}
      onChange={({ target }) => onChange((target.value || null) as StretchEngine | null)}
    >
      <option value="">{engineRow(chooseEngine(source)).name}, by itself</option>
      {engineRows.map(({ engine, name }) => (
        <option key={engine} value={engine}>
          {name}
        </option>
      ))}
    </select>
  );
}
