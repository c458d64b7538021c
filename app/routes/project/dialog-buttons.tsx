/** How a dialog of the project ends: as it was, or with what it shows. */
export const DialogButtons = ({ dialog }: { readonly dialog: React.RefObject<HTMLDialogElement | null> }) => (
  <div className="mt-4 flex justify-end gap-2">
    <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
      Cancel
    </button>
    <button className="btn btn-sm btn-primary">Make it so</button>
  </div>
);
