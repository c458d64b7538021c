import * as Menu from '@radix-ui/react-dropdown-menu';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import type { Step, StepKind } from '~core/workbench/steps';
import { projectRateHz } from '~core/units/time';

/** What a step is called, and what it is for. */
export const stepWords: Readonly<Record<StepKind, { readonly name: string; readonly does: string }>> = {
  part: { name: 'Part', does: 'where the music starts and ends, how many bars it is' },
  grid: { name: 'Onto the grid', does: 'hits played by hand, straight or swung' },
  line: { name: 'Notes of a line', does: 'a single voice note by note, to a key' },
  retune: { name: 'Retune', does: 'all of it by semitones and cents' },
  slices: { name: 'Slices', does: 'cut at hits, played anew on steps' },
  clean: { name: 'Clean', does: 'DC, cuts, gate, silence, width, fades, level' },
  layers: { name: 'Layers', does: 'copies at other pitches, sides and times' },
};
const kinds: readonly StepKind[] = ['part', 'grid', 'line', 'retune', 'slices', 'clean', 'layers'];

/** A step in a few words. */
export function stepInWords(step: Step): string {
  switch (step.kind) {
    case 'part':
      return `${((step.toFrame - step.fromFrame) / projectRateHz).toFixed(2)} s${step.beats === null ? '' : `, ${Number(step.beats.toFixed(2))} beats`}`;
    case 'grid':
      return `${Math.round(step.strength * 100)} %${step.swing > 0.5 ? ', swung' : ''}${step.byHand.length ? `, ${step.byHand.length} by hand` : ''}`;
    case 'line':
      return `${Math.round(step.strength * 100)} % to ${step.key ? 'the key' : 'its notes'}`;
    case 'retune':
      return `${step.semitones > 0 ? '+' : step.semitones < 0 ? '−' : '±'}${Math.abs(Number(step.semitones.toFixed(2)))}${step.keepsFormants ? ', formants kept' : ''}`;
    case 'slices':
      return `${step.hits.length} on steps`;
    case 'clean': {
      const done = [
        step.removesDc && 'DC',
        step.lowCutHz !== null && 'low cut',
        step.highCutHz !== null && 'high cut',
        step.gateDbfs !== null && 'gate',
        step.trimBelowDbfs !== null && 'silence',
        step.width !== 1 && 'width',
        (step.fadeInMs > 0 || step.fadeOutMs > 0) && 'fades',
        step.normalise && 'level',
      ].filter(Boolean);
      return done.length > 0 ? done.join(', ') : 'nothing yet';
    }
    case 'layers':
      return step.layers.length === 1 ? 'one' : String(step.layers.length);
  }
}

/** What is done, in order: chosen to be changed, moved, taken out. */
export function StepList({
  steps,
  chosen,
  onChoose,
  onAdd,
  onMove,
  onRemove,
}: {
  steps: readonly Step[];
  chosen: number | null;
  onChoose: (index: number | null) => void;
  onAdd: (kind: StepKind) => void;
  onMove: (index: number, by: 1 | -1) => void;
  onRemove: (index: number) => void;
}) {
  return (
    <section aria-label="Steps" className="flex w-72 shrink-0 flex-col gap-1">
      <h2 className="flex items-center justify-between">
        Steps
        <Menu.Root modal={false}>
          <Menu.Trigger className="btn btn-xs btn-primary">
            <Plus className="size-3.5" aria-hidden="true" /> Add
          </Menu.Trigger>
          <Menu.Portal>
            <Menu.Content align="end" className="panel z-30 w-80 bg-base-100 p-1 shadow-sm">
              {kinds.map((kind) => (
                <Menu.Item
                  key={kind}
                  className="cursor-pointer rounded-sm px-2 py-1 outline-none data-highlighted:bg-base-300"
                  onSelect={() => onAdd(kind)}
                >
                  <span className="font-medium">{stepWords[kind].name}</span>
                  <span className="quiet block text-[0.86rem]">{stepWords[kind].does}</span>
                </Menu.Item>
              ))}
            </Menu.Content>
          </Menu.Portal>
        </Menu.Root>
      </h2>
      <ol className="flex flex-col gap-1">
        {steps.map((step, index) => (
          <li key={index} className={`panel flex items-center gap-1 ${index === chosen ? 'bg-base-300' : ''}`}>
            <button
              className="min-w-0 flex-1 truncate px-2 py-1 text-left"
              aria-pressed={index === chosen}
              onClick={() => onChoose(index === chosen ? null : index)}
            >
              <span className="font-medium">{stepWords[step.kind].name}</span> <span className="quiet">{stepInWords(step)}</span>
            </button>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`${stepWords[step.kind].name} earlier`}
              disabled={index === 0}
              onClick={() => onMove(index, -1)}
            >
              <ArrowUp className="size-3.5" />
            </button>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`${stepWords[step.kind].name} later`}
              disabled={index === steps.length - 1}
              onClick={() => onMove(index, 1)}
            >
              <ArrowDown className="size-3.5" />
            </button>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`${stepWords[step.kind].name} out`}
              onClick={() => onRemove(index)}
            >
              <Trash2 className="size-3.5" />
            </button>
          </li>
        ))}
      </ol>
      {steps.length === 0 && <p className="quiet">Nothing is done to it yet. The vendor’s file stays as it is, whatever you do here.</p>}
    </section>
  );
}
