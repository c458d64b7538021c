import type { GridStep } from '~core/workbench/to-grid';
import { percent, Slide, type EditorProps } from './fields';

/** What was played by hand, onto the grid. */
export function GridEditor({ step, shown, onChange }: EditorProps<GridStep>) {
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
