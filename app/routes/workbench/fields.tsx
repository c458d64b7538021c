import type { Step } from '~core/workbench/steps';
import type { ShownSound } from '~workers/bench-protocol';
import { DragSlider } from '~/ui/drag-slider';

/** What an editor of a step is given. */
export interface EditorProps<S extends Step> {
  readonly step: S;
  /** The sound as it is before the step. */
  readonly shown: ShownSound;
  readonly onChange: (step: S) => void;
}

export const percent = (value: number): string => `${Math.round(value * 100)} %`;
export const semitones = (value: number): string => `${value > 0 ? '+' : value < 0 ? '−' : '±'}${Math.abs(value)}`;

/** A number that is typed. */
export function NumberField({
  label,
  value,
  onChange,
  min,
  max,
  step = 1,
  placeholder,
}: {
  label: string;
  /** null: not wanted. */
  value: number | null;
  onChange: (value: number | null) => void;
  min: number;
  max: number;
  step?: number;
  placeholder?: string;
}) {
  return (
    <label className="flex items-center gap-1.5">
      <span className="caps">{label}</span>
      <input
        key={value ?? 'none'}
        type="number"
        className="input input-sm w-24"
        min={min}
        max={max}
        step={step}
        placeholder={placeholder}
        defaultValue={value === null ? '' : Number(value.toFixed(3))}
        onBlur={({ target }) => {
          const next = target.value === '' ? null : Math.max(min, Math.min(max, target.valueAsNumber));
          if (next !== value && !Number.isNaN(next)) onChange(next);
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  );
}

/** A value that is looked for by ear. */
export function Slide({
  label,
  value,
  min,
  max,
  step,
  words,
  onCommit,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  words: (value: number) => string;
  onCommit: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-1.5">
      <span className="caps">{label}</span>
      <DragSlider className="range range-xs w-28" min={min} max={max} step={step} value={value} aria-label={label} onCommit={onCommit}>
        {(shown) => <span className="w-16 tabular-nums">{words(shown)}</span>}
      </DragSlider>
    </label>
  );
}

export function Switch({ label, checked, onChange }: { label: string; checked: boolean; onChange: (checked: boolean) => void }) {
  return (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        className="toggle toggle-sm toggle-primary"
        checked={checked}
        onChange={({ target }) => onChange(target.checked)}
      />
      {label}
    </label>
  );
}
