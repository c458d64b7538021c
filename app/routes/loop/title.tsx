import { useState } from 'react';
import { Pencil } from 'lucide-react';
import { api } from '~/ui/api';
import { askOrTell, withForm } from '~/ui/ask';
import { toast } from '~/ui/toast';

/** What a loop is called, and calling it otherwise; its file keeps its name. */
export function Title({ loopId, title }: { loopId: number; title: string }) {
  const [isEditing, setEditing] = useState(false);
  const rename = async (next: string, instead?: string): Promise<void> => {
    const said = withForm('put', { title: next, ...(instead === undefined ? {} : { instead }) }),
      answer = await askOrTell<{ before: string }>(api.title(loopId), said, 'It could not be renamed. Please try again.');
    if (!answer) return;
    const { before } = answer;
    setEditing(false);
    if (before !== next) toast(`“${before}” is “${next}” now.`, { action: { label: 'Undo', onClick: () => void rename(before, next) } });
  };
  if (!isEditing)
    return (
      <span className="flex min-w-0 items-center gap-1">
        <h1 className="truncate">{title}</h1>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Call it otherwise"
          title="Call it otherwise"
          onClick={() => setEditing(true)}
        >
          <Pencil className="size-3.5" />
        </button>
      </span>
    );
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void rename(String(new FormData(event.currentTarget).get('title') ?? '').trim());
      }}
    >
      <input
        name="title"
        className="input input-sm w-72"
        aria-label="What it is called"
        defaultValue={title}
        maxLength={120}
        required
        autoFocus
        onKeyDown={(event) => event.key === 'Escape' && setEditing(false)}
      />
      <button className="btn btn-sm btn-primary">Rename</button>
      <button type="button" className="btn btn-sm" onClick={() => setEditing(false)}>
        Cancel
      </button>
    </form>
  );
}
