import { useState } from 'react';
import { Archive, Pencil, X } from 'lucide-react';
import { toast } from '~/ui/toast';
import { changeMany } from './edit-many';
import { EditManyDialog } from './edit-many-dialog';
import type { Choice } from './use-choice';

/** What can be done with the chosen loops; shown while some are. */
export function ChosenBar({ choice, total }: { choice: Choice; total: number }) {
  const [isOpen, setOpen] = useState(false);
  if (choice.count === 0) return null;
  const archive = async () => {
    const wrong = await changeMany(choice.selection, { kind: 'archive' });
    if (wrong) toast.error(wrong);
    else choice.clear();
  };
  return (
    <div
      role="toolbar"
      aria-label="Chosen loops"
      className="flex h-9 shrink-0 items-center gap-2 border-b border-base-300 bg-base-300 px-3"
    >
      <strong role="status">{choice.count.toLocaleString('en')} chosen</strong>
      {!choice.isAll && choice.count < total && (
        <button className="btn btn-xs" onClick={choice.chooseAll}>
          Choose all {total.toLocaleString('en')}
        </button>
      )}
      <button className="btn btn-xs btn-primary ml-4" onClick={() => setOpen(true)}>
        <Pencil className="size-3.5" /> Edit …
      </button>
      <button className="btn btn-xs" onClick={() => void archive()}>
        <Archive className="size-3.5" /> Archive
      </button>
      <span className="quiet ml-auto max-lg:hidden">ctrl or shift and click, X, shift and arrows choose; ctrl A all</span>
      <button className="btn btn-xs btn-ghost btn-square" aria-label="Choose none" title="Choose none (Escape)" onClick={choice.clear}>
        <X className="size-4" />
      </button>
      {isOpen && <EditManyDialog selection={choice.selection} count={choice.count} onClose={() => setOpen(false)} onDone={choice.clear} />}
    </div>
  );
}
