import { useState } from 'react';
import { Archive, Download, Ear, Pencil, X } from 'lucide-react';
import { api } from '~/ui/api';
import { toast } from '~/ui/toast';
import { changeMany, hearAnew, type Selection } from '~/ui/edit-many';
import { EditManyDialog } from './edit-many-dialog';
import type { Near } from '~core/search/query';
import type { Choice } from './use-choice';

/** The chosen as a zip, with what is known of them in the files. A form of its own, for the browser to save what comes. */
function FilesOut({ selection }: { selection: Selection }) {
  const [names, setNames] = useState('vendor');
  return (
    <form method="post" action={api.loopFiles} className="flex items-center gap-1">
      {'ids' in selection ? (
        <input type="hidden" name="ids" value={selection.ids.join(',')} />
      ) : (
        <input type="hidden" name="address" value={selection.address} />
      )}
      <button className="btn btn-xs" title="A zip with tempo, key and more inside the files, a manifest and the licences">
        <Download className="size-3.5" /> Get files
      </button>
      <select
        name="names"
        className="select select-xs w-36"
        aria-label="Names of the files"
        value={names}
        onChange={(event) => setNames(event.target.value)}
      >
        <option value="vendor">vendor’s names</option>
        <option value="title">titles here</option>
        <option value="pattern">by a pattern</option>
      </select>
      {names === 'pattern' && (
        <input
          name="pattern"
          className="input input-xs w-48"
          aria-label="Pattern of the names"
          defaultValue="{instrument} {tempo} {key} {n2}"
          title="Can be used: {title} {file} {pack} {instrument} {tempo} {key} {n} {n2} {n3}"
        />
      )}
    </form>
  );
}

/** What can be done with the chosen loops; shown while some are. */
export function ChosenBar({ choice, total, onNear }: { choice: Choice; total: number; onNear: (near: Near) => void }) {
  const few = [...choice.ids].slice(0, 8);
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
      <button className="btn btn-xs" onClick={() => void hearAnew(choice.selection)}>
        <Ear className="size-3.5" /> Listen again
      </button>
      {!choice.isAll && choice.count <= 8 && (
        <>
          <button className="btn btn-xs" onClick={() => onNear({ kind: 'like', ids: few, sound: 1, rhythm: 0, harmony: 0 })}>
            More like these
          </button>
          <button className="btn btn-xs" onClick={() => onNear({ kind: 'with', ids: few })}>
            What goes with them
          </button>
        </>
      )}
      <FilesOut selection={choice.selection} />
      <span className="quiet ml-auto max-lg:hidden">ctrl or shift and click, X, shift and arrows choose; ctrl A all</span>
      <button className="btn btn-xs btn-ghost btn-square" aria-label="Choose none" title="Choose none (Escape)" onClick={choice.clear}>
        <X className="size-4" />
      </button>
      {isOpen && <EditManyDialog selection={choice.selection} count={choice.count} onClose={() => setOpen(false)} onDone={choice.clear} />}
    </div>
  );
}
