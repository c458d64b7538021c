import type { Levels } from '~core/analysis/level/levels';
import type { CleanStep } from '~core/workbench/clean';
import { NumberField, percent, Slide, Switch, type EditorProps } from './fields';

/** What was heard of a sound that one may want to put right, in words. */
function flawsOf({ clippedRuns, dc, bandLimitHz, noiseFloorDbfs, monoLossDb }: Levels): string[] {
  return [
    clippedRuns > 0 && `it clips in ${clippedRuns} ${clippedRuns === 1 ? 'place' : 'places'}, which nothing here mends`,
    bandLimitHz && `its treble is cut off at ${(bandLimitHz / 1000).toFixed(1)} kHz, as in lossy files`,
    Math.abs(dc) > 0.001 && `DC of ${dc.toFixed(3)}`,
    noiseFloorDbfs !== null && noiseFloorDbfs > -70 && `noise at ${noiseFloorDbfs.toFixed(0).replace('-', '−')} dBFS`,
    monoLossDb > 3 && `it loses ${monoLossDb.toFixed(1)} dB in mono`,
  ].filter((each) => typeof each === 'string');
}

/** What is put right about the whole. */
export function CleanEditor({ step, onChange, levels }: EditorProps<CleanStep> & { levels: Levels | null }) {
  const set = (changes: Partial<CleanStep>) => onChange({ ...step, ...changes }),
    flaws = levels ? flawsOf(levels) : [];
  return (
    <>
      {levels && (
        <p className="quiet w-full">{flaws.length > 0 ? `As it came: ${flaws.join('; ')}.` : 'As it came, nothing is wrong with it.'}</p>
      )}
      <Switch label="DC out" checked={step.removesDc} onChange={(removesDc) => set({ removesDc })} />
      <NumberField
        label="Low cut, Hz"
        value={step.lowCutHz}
        min={5}
        max={20_000}
        placeholder="off"
        onChange={(lowCutHz) => set({ lowCutHz })}
      />
      <NumberField
        label="High cut, Hz"
        value={step.highCutHz}
        min={20}
        max={22_000}
        placeholder="off"
        onChange={(highCutHz) => set({ highCutHz })}
      />
      <NumberField
        label="Gate, dBFS"
        value={step.gateDbfs}
        min={-120}
        max={0}
        placeholder="off"
        onChange={(gateDbfs) => set({ gateDbfs })}
      />
      {step.gateDbfs !== null && (
        <NumberField
          label="Release, ms"
          value={step.gateReleaseMs}
          min={1}
          max={5000}
          onChange={(value) => set({ gateReleaseMs: value ?? 80 })}
        />
      )}
      <NumberField
        label="Silence below, dBFS"
        value={step.trimBelowDbfs}
        min={-120}
        max={0}
        placeholder="stays"
        onChange={(trimBelowDbfs) => set({ trimBelowDbfs })}
      />
      <Slide
        label="Width"
        value={step.width}
        min={0}
        max={2}
        step={0.05}
        words={(value) => (value === 0 ? 'mono' : percent(value))}
        onCommit={(width) => set({ width })}
      />
      <NumberField label="Fade in, ms" value={step.fadeInMs} min={0} max={20_000} onChange={(value) => set({ fadeInMs: value ?? 0 })} />
      <NumberField label="Fade out, ms" value={step.fadeOutMs} min={0} max={20_000} onChange={(value) => set({ fadeOutMs: value ?? 0 })} />
      <label className="flex items-center gap-1.5">
        <span className="caps">Level</span>
        <select
          className="select select-sm w-40"
          value={step.normalise?.by ?? ''}
          onChange={({ target }) =>
            set({
              normalise: target.value === '' ? null : { by: target.value as 'peak' | 'loudness', toDb: target.value === 'peak' ? -1 : -18 },
            })
          }
        >
          <option value="">as it is</option>
          <option value="peak">its peak to …</option>
          <option value="loudness">its loudness to …</option>
        </select>
      </label>
      {step.normalise && (
        <NumberField
          label={step.normalise.by === 'peak' ? 'dBFS' : 'LUFS'}
          value={step.normalise.toDb}
          min={-60}
          max={0}
          step={0.1}
          onChange={(value) => step.normalise && set({ normalise: { ...step.normalise, toDb: value ?? -1 } })}
        />
      )}
    </>
  );
}
