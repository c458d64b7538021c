import { useEffect, useId, useRef, useState } from 'react';
import type { PackWords } from '~server/services/pack-page.server';

/** Name, vendor, licence and description of a pack. */
export function EditDialog({
  words,
  onSave,
  onClose,
}: {
  words: PackWords;
  /** @returns what is wrong, by field; null when it is taken */
  onSave: (changed: Partial<PackWords>) => Promise<Readonly<Record<string, string>> | null>;
  onClose: () => void;
}) {
  const ref = useRef<HTMLDialogElement>(null),
    titleId = useId(),
    // As they stood when one began to write: others may say something else meanwhile.
    [opened] = useState(words),
    [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  useEffect(() => ref.current?.showModal(), []);
  const field = (name: 'name' | 'vendor' | 'licence', label: string) => (
    <label className="flex flex-col gap-1">
      <span className="caps">{label}</span>
      <input name={name} className="input w-full" defaultValue={opened[name]} aria-invalid={errors[name] !== undefined} />
      {errors[name] && <span className="text-error">{errors[name]}</span>}
    </label>
  );
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-labelledby={titleId}>
      <form
        className="modal-box flex max-w-lg flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget),
            changed = (['name', 'vendor', 'licence', 'description'] as const)
              .map((name) => [name, String(form.get(name) ?? '').trim()] as const)
              .filter(([name, text]) => text !== opened[name]);
          void onSave(Object.fromEntries(changed)).then((wrong) => (wrong ? setErrors(wrong) : onClose()));
        }}
      >
        <h2 id={titleId}>Edit the pack</h2>
        {field('name', 'Name')}
        {field('vendor', 'Vendor')}
        {field('licence', 'Licence')}
        <label className="flex flex-col gap-1">
          <span className="caps">Description</span>
          <textarea name="description" rows={5} className="textarea w-full" defaultValue={opened.description} />
          {errors.description && <span className="text-error">{errors.description}</span>}
        </label>
        <div className="modal-action">
          <button type="button" className="btn" onClick={() => ref.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-primary">Save</button>
        </div>
      </form>
    </dialog>
  );
}
