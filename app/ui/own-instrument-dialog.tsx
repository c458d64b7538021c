import { useEffect, useId, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { instrumentsHeard, ownInstruments, setOwnInstruments } from '~core/theory/instruments';
import { api } from './api';
import { ask } from './ask';

/** An instrument of the group's own: how it is called, and what it sounds like. */
export function OwnInstrumentDialog({ onAdded, onClose }: { onAdded: (id: string) => void; onClose: () => void }) {
  const ref = useRef<HTMLDialogElement>(null),
    titleId = useId(),
    { revalidate } = useRevalidator(),
    [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => ref.current?.showModal(), []);
  const send = async (form: FormData) => {
    const added = await ask<{ id: string }>(api.instruments, { method: 'post', body: form });
    if (!added.ok) return setWrong(added.wrong);
    const { id } = added.answer;
    // Known here before the page has asked anew.
    setOwnInstruments([
      ...ownInstruments().filter((each) => each.id !== id),
      { id, label: String(form.get('label')), soundsAs: String(form.get('soundsAs')), words: [] },
    ]);
    void revalidate();
    onAdded(id);
  };
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-labelledby={titleId}>
      <form
        className="modal-box flex max-w-md flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send(new FormData(event.currentTarget));
        }}
      >
        <h2 id={titleId}>An instrument of our own</h2>
        <label className="flex flex-col gap-1">
          <span className="caps">Name</span>
          <input name="label" className="input w-full" required maxLength={60} placeholder="Hull plate" />
        </label>
        <label className="flex flex-col gap-1">
          <span className="caps">Sounds like</span>
          <select name="soundsAs" className="select w-full" required defaultValue="">
            <option value="" disabled>
              choose …
            </option>
            {instrumentsHeard.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
          <span className="quiet">Of that family it is; new files are told by its name.</span>
        </label>
        <label className="flex flex-col gap-1">
          <span className="caps">Also called</span>
          <input name="words" className="input w-full" placeholder="names with commas, as files have them" />
        </label>
        {wrong && (
          <p className="text-error" role="alert">
            {wrong}
          </p>
        )}
        <div className="modal-action">
          <button type="button" className="btn" onClick={() => ref.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-primary">Add it</button>
        </div>
      </form>
    </dialog>
  );
}
