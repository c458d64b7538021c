import { useEffect, useRef, useState } from 'react';
import type { BenchSetting, Step } from '~core/workbench/steps';
import { severalOf, type Several } from '~core/workbench/several';
import type { WholeLoop } from '~contracts/whole-loop';
import type { PackFor, Sheet } from '~contracts/making';
import { makeLoops, namesTaken, noPack, unsaid } from '~/ui/sheet/making-api';
import { PackChoice, SheetFields } from '~/ui/sheet/sheet-fields';
import { toast } from '~/ui/toast';

/** So many are made by one press. */
const mostMadeAtOnce = 64;

/** What is on the bench, given a name and to the library; in one, or in several as a set. */
export function SaveDialog({
  row,
  steps,
  setting,
  made,
  onClose,
}: {
  row: WholeLoop;
  steps: readonly Step[];
  setting: BenchSetting;
  /** What all steps come to. */
  made: BenchSetting & { readonly frames: number };
  onClose: () => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null),
    { source } = row,
    last = steps.at(-1),
    layers = last?.kind === 'layers' && last.layers.length > 1 ? last.layers : null,
    [name, setName] = useState(`${row.title}, ours`.slice(0, 120)),
    [how, setHow] = useState<Several | 'notes'>('one'),
    [bars, setBars] = useState(1),
    whole = severalOf(steps, made, how === 'notes' ? 'one' : how, bars),
    all = whole.slice(0, mostMadeAtOnce),
    [pack, setPack] = useState<PackFor>(noPack),
    [said, setSaid] = useState<Omit<Sheet, 'name'>>({
      ...unsaid,
      kind: source.kind === 'one-shot' || source.kind === 'phrase' ? source.kind : 'loop',
      instrument: source.instrument,
    }),
    [problem, setProblem] = useState<string | null>(null),
    [isSending, setSending] = useState(false);
  useEffect(() => dialog.current?.showModal(), []);
  const send = async () => {
    setSending(true);
    const names = all.map(({ suffix }) => [name.trim(), suffix].filter(Boolean).join(' ')),
      taken = pack.packId === null ? [] : await namesTaken(pack.packId, names),
      refused =
        taken.length > 0
          ? `“${taken[0]}” is already in that pack. Call yours otherwise.`
          : await makeLoops({
              pack,
              makings: all.map((each, k) => ({
                sheet: {
                  ...said,
                  name: names[k],
                  kind: how === 'slices' ? 'one-shot' : said.kind,
                  setName: all.length > 1 ? said.setName || name.trim() : said.setName,
                },
                how: { kind: 'steps', as: how === 'notes' ? 'notes' : 'sound', loopId: row.id, steps: each.steps, setting },
              })),
            });
    setSending(false);
    setProblem(refused);
    if (refused !== null) return;
    toast(names.length === 1 ? `“${names[0]}” is being made.` : `${names.length} loops are being made.`);
    dialog.current?.close();
  };
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label="Save into the library">
      <form
        method="dialog"
        className="modal-box flex max-w-3xl flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div>
          <h2>Save into the library</h2>
          <p className="quiet">
            Made of “{row.title}” of {row.packName}: its licence goes along, and “{row.title}” stays as it is.
          </p>
        </div>
        <label className="flex flex-col gap-0.5">
          <span className="caps">Name</span>
          <input className="input w-full" required maxLength={120} value={name} onChange={({ target }) => setName(target.value)} />
        </label>
        <div className="flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2">
            <span className="caps">As</span>
            <select className="select select-sm w-64" value={how} onChange={({ target }) => setHow(target.value as typeof how)}>
              <option value="one">one</option>
              <option value="bars" disabled={made.tempoBpm === null}>
                one every few bars, as a set
              </option>
              <option value="slices">each slice a one-shot, as a set</option>
              <option value="notes" disabled={last?.kind !== 'slices'}>
                its pattern of slices, as notes
              </option>
              <option value="layers" disabled={!layers}>
                each layer by itself, as a set
              </option>
            </select>
          </label>
          {how === 'bars' && (
            <label className="flex items-center gap-2">
              <span className="caps">Bars of each</span>
              <input
                type="number"
                className="input input-sm w-20"
                min={1}
                max={64}
                value={bars}
                onChange={({ target }) => setBars(Math.max(1, Math.min(64, Math.round(target.valueAsNumber) || 1)))}
              />
            </label>
          )}
          {all.length > 1 && (
            <span className="quiet">
              {all.length < whole.length ? `the first ${all.length} of ${whole.length}` : `${all.length} of them`}
            </span>
          )}
        </div>
        <PackChoice pack={pack} onChange={setPack} />
        <SheetFields said={said} onChange={setSaid} madeOf={[row.id]} />
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-sm btn-primary" disabled={isSending}>
            Save
          </button>
        </div>
      </form>
    </dialog>
  );
}
