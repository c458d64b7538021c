import { Plus, Trash2 } from 'lucide-react';
import type { LayersStep } from '~core/workbench/layers';
import { NumberField, semitones, Slide, type EditorProps } from './fields';

const db = (value: number): string => `${value > 0 ? '+' : value < 0 ? '−' : '±'}${Math.abs(value).toFixed(1)} dB`;

/** Copies at other pitches, levels, sides and times. */
export function LayersEditor({ step, onChange }: EditorProps<LayersStep>) {
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
