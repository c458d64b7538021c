import type { Step } from '~core/workbench/steps';
import { noteName } from '~core/theory/key';
import { nearestIn } from '~core/workbench/retune';
import { allKeys, keyCode, keyName, parseKeyCode } from '~core/theory/key';
import type { Levels } from '~core/analysis/level/levels';
import type { CleanStep } from '~core/workbench/clean';
import type { GridStep } from '~core/workbench/to-grid';
import type { LayersStep } from '~core/workbench/layers';
import type { LineStep, RetuneStep } from '~core/workbench/retune';
import type { PartStep } from '~core/workbench/part';
import { projectRateHz, tempoFromLength } from '~core/units/time';
import { Plus, Trash2 } from 'lucide-react';
import type { ShownSound } from '~workers/bench-protocol';
import { tempoText } from '~/ui/format';
import { NumberField, Slide, Switch } from './fields';
import type { HandleSnap } from './view';

const db = (value: number) => `${value > 0 ? '+' : value < 0 ? '−' : '±'}${Math.abs(value).toFixed(1)} dB`,
  percent = (value: number) => `${Math.round(value * 100)} %`,
  semitones = (value: number) => `${value > 0 ? '+' : value < 0 ? '−' : '±'}${Math.abs(value)}`;

interface Props<S extends Step> {
  readonly step: S;
  readonly shown: ShownSound;
  readonly onChange: (step: S) => void;
}

/** Where the music starts and ends, and how long it is said to be: the tempo from the bars, or the bars from the tempo. */
export function PartEditor({
  step,
  shown,
  onChange,
  snap,
  onSnap,
}: Props<PartStep> & { snap: HandleSnap; onSnap: (snap: HandleSnap) => void }) {
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
                  const beats = Math.max(1, Math.round((seconds * value) / 60));
                  return { ...step, beats, toFrame: Math.round(step.fromFrame + (beats * 60 * projectRateHz) / value) };
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

/** What was played by hand, onto the grid. */
export function GridEditor({ step, shown, onChange }: Props<GridStep>) {
  const set = (changes: Partial<GridStep>) => onChange({ ...step, ...changes });
  return (
    <>
      <Slide
        label="Strength"
        value={step.strength}
        min={0}
        max={1}
        step={0.05}
        words={percent}
        onCommit={(strength) => set({ strength })}
      />
      <label className="flex items-center gap-1.5">
        <span className="caps">Grid</span>
        <select
          className="select select-sm w-36"
          value={step.stepsPerBeat}
          onChange={({ target }) => set({ stepsPerBeat: Number(target.value) })}
        >
          <option value={1}>beats</option>
          <option value={2}>½ beats</option>
          <option value={3}>triplets</option>
          <option value={4}>¼ beats</option>
          <option value={6}>sixths</option>
          <option value={8}>eighths</option>
        </select>
      </label>
      <Slide
        label="Swing"
        value={step.swing}
        min={0.5}
        max={0.75}
        step={0.01}
        words={(value) => (value === 0.5 ? 'straight' : percent(value))}
        onCommit={(swing) => set({ swing })}
      />
      <label className="flex items-center gap-1.5">
        <span className="caps">Keeps</span>
        <select
          className="select select-sm w-44"
          value={step.keeps}
          onChange={({ target }) => set({ keeps: target.value as GridStep['keeps'] })}
        >
          <option value="hits">attacks as they are</option>
          <option value="tones">held tones smooth</option>
        </select>
      </label>
      {step.byHand.length > 0 && (
        <button className="btn btn-xs" onClick={() => set({ byHand: [] })}>
          {step.byHand.length} moved by hand: back to the grid
        </button>
      )}
      <span className="quiet">
        {shown.tempoBpm === null
          ? 'Its tempo is not known: say how many bars it has in a part first.'
          : `${shown.onsetFrames.length} hits; drag one to move it by hand`}
      </span>
    </>
  );
}

/** The whole in pitch. */
export function RetuneEditor({ step, onChange, tuningCents }: Props<RetuneStep> & { tuningCents: number | null }) {
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
export function LineEditor({ step, shown, onChange }: Props<LineStep>) {
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
export function CleanEditor({ step, onChange, levels }: Props<CleanStep> & { levels: Levels | null }) {
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

/** Copies at other pitches, levels, sides and times. */
export function LayersEditor({ step, onChange }: Props<LayersStep>) {
  const set = (index: number, changes: Partial<LayersStep['layers'][number]>) =>
    onChange({ ...step, layers: step.layers.map((layer, k) => (k === index ? { ...layer, ...changes } : layer)) });
  return (
    <div className="flex w-full flex-col gap-1.5">
      {step.layers.map((layer, k) => (
        <div key={k} className="flex flex-wrap items-center gap-x-3 gap-y-1" role="group" aria-label={`Layer ${k + 1}`}>
          <Slide
            label="Pitch"
            value={layer.semitones}
            min={-24}
            max={24}
            step={1}
            words={semitones}
            onCommit={(value) => set(k, { semitones: value })}
          />
          <Slide label="Level" value={layer.gainDb} min={-40} max={12} step={0.5} words={db} onCommit={(gainDb) => set(k, { gainDb })} />
          <Slide
            label="Pan"
            value={layer.pan}
            min={-1}
            max={1}
            step={0.05}
            words={(value) => (value === 0 ? 'middle' : `${Math.round(Math.abs(value) * 100)} ${value < 0 ? 'left' : 'right'}`)}
            onCommit={(pan) => set(k, { pan })}
          />
          <NumberField
            label="Later, beats"
            value={layer.delayBeats}
            min={0}
            max={64}
            step={0.25}
            onChange={(value) => set(k, { delayBeats: value ?? 0 })}
          />
          <NumberField
            label="Low cut, Hz"
            value={layer.lowCutHz}
            min={5}
            max={20_000}
            placeholder="off"
            onChange={(lowCutHz) => set(k, { lowCutHz })}
          />
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Without layer ${k + 1}`}
            disabled={step.layers.length === 1}
            onClick={() => onChange({ ...step, layers: step.layers.filter((_, other) => other !== k) })}
          >
            <Trash2 className="size-4" />
          </button>
        </div>
      ))}
      <span className="flex gap-2">
        <button
          className="btn btn-xs"
          disabled={step.layers.length >= 12}
          onClick={() =>
            onChange({ ...step, layers: [...step.layers, { semitones: -12, gainDb: -6, pan: 0, delayBeats: 0, lowCutHz: null }] })
          }
        >
          <Plus className="size-3.5" aria-hidden="true" /> Another layer
        </button>
        <button
          className="btn btn-xs"
          onClick={() =>
            onChange({
              ...step,
              layers: [-24, 0, 24].map((each) => ({
                semitones: each,
                gainDb: each === 0 ? 0 : -9,
                pan: 0,
                delayBeats: 0,
                lowCutHz: each < 0 ? 40 : null,
              })),
            })
          }
        >
          −24, 0, +24
        </button>
      </span>
    </div>
  );
}
