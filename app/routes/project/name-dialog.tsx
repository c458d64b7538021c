import { useEffect, useRef } from 'react';
import type { Edit } from '~core/arrangement/edit';
import type { Section } from '~core/arrangement/tree';
import { DialogButtons } from './dialog-buttons';

/** What a section is called. */
export function NameDialog({
  section,
  onClose,
  onMake,
}: {
  section: Section;
  onClose: () => void;
  onMake: (edit: Edit | null, otherwise: string) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label={`What ${section.name} is called`}>
      <form
        method="dialog"
        className="modal-box max-w-sm"
        onSubmit={(event) => {
          event.preventDefault();
          const name = String(new FormData(event.currentTarget).get('name')).trim();
          onMake({ kind: 'set-section', sectionId: section.id, changes: { name } }, '');
          dialog.current?.close();
        }}
      >
        <h2>What it is called</h2>
        <input name="name" className="input mt-3 w-full" defaultValue={section.name} required maxLength={120} aria-label="Name" />
        <DialogButtons dialog={dialog} />
      </form>
    </dialog>
  );
}
