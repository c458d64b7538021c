import { useState } from 'react';
import { ArrowLeft, ArrowRight } from 'lucide-react';
import { patternAsPlayed, slicesOf, type SliceHit, type SlicesStep } from '~core/workbench/slices';
import { secondsToBeats, projectRateHz } from '~core/units/time';
import type { ShownSound } from '~workers/bench-protocol';

/** So many are shown at once; the others are leafed to. */
const slicesAtOnce = 24,
  stepsAtOnce = 64;

/** Slices down, steps across: a click puts a slice on a step, once more turns it backwards, once more takes it away. */
export function SlicesEditor({ step, shown, onChange }: { step: SlicesStep; shown: ShownSound; onChange: (step: SlicesStep) => void }) {
  const [fromSlice, setFromSlice] = useState(0),
    [fromStep, setFromStep] = useState(0),
    slices = slicesOf(shown),
    beats = shown.beats ?? secondsToBeats(shown.channels[0].length / projectRateHz, shown.tempoBpm ?? 120),
    steps = Math.max(1, Math.round(beats * step.stepsPerBeat)),
    rows = leaf(fromSlice, slicesAtOnce, slices.length),
    places = leaf(fromStep, stepsAtOnce, steps),
    at = (slice: number, place: number) => step.hits.find((hit) => hit.slice === slice && hit.step === place),
    put = (hits: readonly SliceHit[]) => onChange({ ...step, hits }),
    press = (slice: number, place: number) => {
      const hit = at(slice, place),
        others = step.hits.filter((each) => each !== hit);
      if (!hit) put([...others, { slice, step: place, velocity: 1, reverse: false }]);
      else if (!hit.reverse) put([...others, { ...hit, reverse: true }]);
      else put(others);
    };
  return (
    <div className="flex w-full flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <button className="btn btn-xs" onClick={() => put(patternAsPlayed(shown, step.stepsPerBeat))}>
          As it was played
        </button>
        <button
          className="btn btn-xs"
          onClick={() => put(step.hits.map((hit) => ({ ...hit, slice: (hit.slice + 1) % Math.max(1, slices.length) })))}
        >
          Each the next slice
        </button>
        <button className="btn btn-xs" onClick={() => put([])}>
          Empty
        </button>
        <label className="flex items-center gap-1.5">
          <span className="caps">Steps in a beat</span>
          <select
            className="select select-sm w-20"
            value={step.stepsPerBeat}
            onChange={({ target }) => onChange({ ...step, stepsPerBeat: Number(target.value) })}
          >
            {[2, 3, 4, 6, 8].map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
        <Leaves what="slices" shown={rows} atOnce={slicesAtOnce} total={slices.length} onFrom={setFromSlice} />
        <Leaves what="steps" shown={places} atOnce={stepsAtOnce} total={steps} onFrom={setFromStep} />
        <span className="quiet">{slices.length} slices. A click: on, backwards, off. Up and down arrows on one: louder, softer.</span>
      </div>
      <div className="max-h-44 overflow-auto">
        <table aria-label="Slices on steps" className="border-separate border-spacing-0.5">
          <tbody>
            {rows.map((slice) => (
              <tr key={slice}>
                <th scope="row" className="sticky left-0 bg-base-100 pr-2 text-left text-[0.86rem] font-normal">
                  {slice + 1}
                </th>
                {places.map((place) => {
                  const hit = at(slice, place);
                  return (
                    <td key={place}>
                      <button
                        className={`h-5 w-6 rounded-sm border text-[0.79rem] leading-none ${place % step.stepsPerBeat === 0 ? 'border-base-content/50' : 'border-base-300'} ${hit ? 'bg-primary text-primary-content' : ''}`}
                        style={hit ? { opacity: 0.45 + 0.55 * hit.velocity } : undefined}
                        aria-label={`Slice ${slice + 1} on step ${place + 1}${hit ? (hit.reverse ? ', backwards' : ', on') : ''}`}
                        aria-pressed={hit !== undefined}
                        onClick={() => press(slice, place)}
                        onKeyDown={(event) => {
                          const by = event.key === 'ArrowUp' ? 0.1 : event.key === 'ArrowDown' ? -0.1 : 0;
                          if (!hit || by === 0) return;
                          event.preventDefault();
                          put(
                            step.hits.map((each) =>
                              each === hit ? { ...hit, velocity: Math.max(0.1, Math.min(1, hit.velocity + by)) } : each,
                            ),
                          );
                        }}
                      >
                        {hit?.reverse ? '◂' : ''}
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** The places of one leaf; of what has become shorter the last. */
function leaf(from: number, atOnce: number, total: number): number[] {
  const first = Math.min(from, Math.max(0, Math.ceil(total / atOnce) - 1) * atOnce);
  return Array.from({ length: Math.min(atOnce, total - first) }, (_, k) => first + k);
}

interface LeavesProps {
  readonly what: 'slices' | 'steps';
  readonly shown: readonly number[];
  readonly atOnce: number;
  readonly total: number;
  readonly onFrom: (from: number) => void;
}

/** Where there are more than are shown at once: which are shown, and the way to the others. */
function Leaves({ what, shown, atOnce, total, onFrom }: LeavesProps) {
  if (total <= atOnce) return null;
  const [from] = shown,
    until = from + shown.length;
  return (
    <span className="flex items-center gap-1">
      <button className="btn btn-xs btn-square" aria-label={`Earlier ${what}`} disabled={from === 0} onClick={() => onFrom(from - atOnce)}>
        <ArrowLeft className="size-3.5" aria-hidden="true" />
      </button>
      <span className="tabular-nums" role="status">
        {what} {from + 1}–{until} of {total}
      </span>
      <button className="btn btn-xs btn-square" aria-label={`Later ${what}`} disabled={until === total} onClick={() => onFrom(until)}>
        <ArrowRight className="size-3.5" aria-hidden="true" />
      </button>
    </span>
  );
}
