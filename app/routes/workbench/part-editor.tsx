import type { PartStep } from '~core/workbench/part';
import { beatToFrame, projectRateHz, secondsToBeats, tempoFromLength } from '~core/units/time';
import { tempoText } from '~/ui/format';
import { NumberField, Switch, type EditorProps } from './fields';
import type { HandleSnap } from './view';

/** Where the music starts and ends, and how long it is said to be: the tempo from the bars, or the bars from the tempo. */
export function PartEditor({
  step,
  shown,
  onChange,
  snap,
  onSnap,
}: EditorProps<PartStep> & { snap: HandleSnap; onSnap: (snap: HandleSnap) => void }) {
  const seconds = (step.toFrame - step.fromFrame) / projectRateHz,
    bars = step.beats === null ? null : step.beats / shown.barBeats,
    tempo = step.beats === null ? shown.tempoBpm : tempoFromLength(step.beats, seconds);
  return (
    <>
      <label className="flex items-center gap-1.5">
        <span className="caps">Handles snap to</span>
        <select className="select select-sm w-36" value={snap} onChange={({ target }) => onSnap(target.value as HandleSnap)}>
          <option value="zero">zero crossings</option>
          <option value="hit">hits</option>
          <option value="beat">beats</option>
          <option value="bar">bars</option>
          <option value="off">nothing</option>
        </select>
      </label>
      <NumberField
        label="Fits bars"
        value={bars}
        min={0.25}
        max={512}
        step={0.25}
        placeholder="unknown"
        onChange={(value) => onChange({ ...step, beats: value === null ? null : value * shown.barBeats })}
      />
      <NumberField
        label="at tempo"
        value={tempo}
        min={20}
        max={400}
        step={0.01}
        placeholder="unknown"
        onChange={(value) =>
          onChange(
            value === null
              ? { ...step, beats: null }
              : // As many whole beats as there is room for at that tempo: the end goes where they end.
                (() => {
                  const beats = Math.max(1, Math.round(secondsToBeats(seconds, value)));
                  return { ...step, beats, toFrame: step.fromFrame + beatToFrame(beats, value, projectRateHz) };
                })(),
          )
        }
      />
      <Switch
        label="what rings on goes round into its start"
        checked={step.wrapsTail}
        onChange={(wrapsTail) => onChange({ ...step, wrapsTail })}
      />
      <span className="quiet">
        {seconds.toFixed(3)} s
        {tempo !== null && step.beats !== null ? `: ${Number((step.beats / shown.barBeats).toFixed(2))} bars at ${tempoText(tempo)}` : ''}
      </span>
    </>
  );
}
