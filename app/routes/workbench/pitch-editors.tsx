import { allKeys, keyCode, keyName, noteName, parseKeyCode } from '~core/theory/key';
import { nearestIn, type LineStep, type RetuneStep } from '~core/workbench/retune';
import { percent, semitones, Slide, Switch, type EditorProps } from './fields';

/** The whole in pitch. */
export function RetuneEditor({ step, onChange, tuningCents }: EditorProps<RetuneStep> & { tuningCents: number | null }) {
  const set = (changes: Partial<RetuneStep>) => onChange({ ...step, ...changes }),
    whole = Math.round(step.semitones),
    cents = Math.round((step.semitones - whole) * 100);
  return (
    <>
      <Slide
        label="Semitones"
        value={whole}
        min={-24}
        max={24}
        step={1}
        words={semitones}
        onCommit={(value) => set({ semitones: Math.max(-24, Math.min(24, value + cents / 100)) })}
      />
      <Slide
        label="Cents"
        value={cents}
        min={-50}
        max={50}
        step={1}
        words={semitones}
        onCommit={(value) => set({ semitones: Math.max(-24, Math.min(24, whole + value / 100)) })}
      />
      {tuningCents !== null && Math.abs(tuningCents) >= 1 && (
        <button className="btn btn-xs" onClick={() => set({ semitones: Math.max(-24, Math.min(24, whole - tuningCents / 100)) })}>
          Tune to 440 ({semitones(-Math.round(tuningCents))} cents)
        </button>
      )}
      <Switch label="keeps its formants" checked={step.keepsFormants} onChange={(keepsFormants) => set({ keepsFormants })} />
      {step.keepsFormants && (
        <Slide
          label="Formants"
          value={step.formantSemitones}
          min={-12}
          max={12}
          step={1}
          words={semitones}
          onCommit={(formantSemitones) => set({ formantSemitones })}
        />
      )}
    </>
  );
}

/** A single line note by note. */
export function LineEditor({ step, shown, onChange }: EditorProps<LineStep>) {
  const set = (changes: Partial<LineStep>) => onChange({ ...step, ...changes }),
    notes = shown.line?.notes ?? [];
  return (
    <>
      <Slide
        label="To its notes"
        value={step.strength}
        min={0}
        max={1}
        step={0.05}
        words={percent}
        onCommit={(strength) => set({ strength })}
      />
      <Slide
        label="Drift and vibrato flattened"
        value={step.straightness}
        min={0}
        max={1}
        step={0.05}
        words={percent}
        onCommit={(straightness) => set({ straightness })}
      />
      <label className="flex items-center gap-1.5">
        <span className="caps">Notes of</span>
        <select
          className="select select-sm w-36"
          value={step.key ? keyCode(step.key) : ''}
          onChange={({ target }) => set({ key: target.value ? parseKeyCode(target.value) : null })}
        >
          <option value="">all twelve</option>
          {allKeys.map((key) => (
            <option key={keyCode(key)} value={keyCode(key)}>
              {keyName(key)}
            </option>
          ))}
        </select>
      </label>
      <Slide
        label="Formants"
        value={step.formantSemitones}
        min={-12}
        max={12}
        step={1}
        words={semitones}
        onCommit={(formantSemitones) => set({ formantSemitones })}
      />
      {Object.keys(step.moves).length > 0 && (
        <button className="btn btn-xs" onClick={() => set({ moves: {} })}>
          {Object.keys(step.moves).length} moved by hand: back
        </button>
      )}
      <span className="quiet">
        {shown.line === null
          ? 'It is being listened to …'
          : notes.length === 0
            ? 'No single line is heard in it.'
            : `${notes.length} notes, ${noteName(Math.min(...notes.map((note) => nearestIn(step.key, note.pitch))))} to ${noteName(Math.max(...notes.map((note) => nearestIn(step.key, note.pitch))))}`}
      </span>
    </>
  );
}
