import { useState } from 'react';
import { changeMany } from '~/ui/edit-many';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import type { PackPage } from '~server/services/pack-page.server';

/** Loops made to go together. Called like another one, a set joins it; loops are parted from one in the Library. */
export function Sets({ sets }: { sets: PackPage['sets'] }) {
  const [renaming, setRenaming] = useState<number | null>(null);
  const rename = async (id: number, stem: string) => {
    if (stem.trim() === '') return;
    const wrong = await changeMany({ address: `set=${id}` }, { kind: 'set', stem: stem.trim() });
    if (wrong) return toast.error(wrong);
    setRenaming(null);
  };
  if (sets.length === 0) return <p className="quiet mt-1">No loops in it seem made to go together.</p>;
  return (
    <>
      <ul className="mt-1 max-h-80 overflow-y-auto" tabIndex={0} aria-labelledby="sets-title">
        {sets.map(({ id, stem, count }) => (
          <li key={id} className="flex min-h-7 items-center gap-2">
            {renaming === id ? (
              <form
                className="flex flex-1 items-center gap-1"
                onSubmit={(event) => {
                  event.preventDefault();
                  void rename(id, String(new FormData(event.currentTarget).get('stem') ?? ''));
                }}
              >
                <input
                  name="stem"
                  className="input input-xs min-w-0 flex-1"
                  aria-label="Name of the set"
                  defaultValue={stem}
                  list="sets-there"
                  autoFocus
                />
                <button className="btn btn-xs btn-primary">Save</button>
                <button type="button" className="btn btn-xs" onClick={() => setRenaming(null)}>
                  Cancel
                </button>
              </form>
            ) : (
              <>
                <RoomLink to={`/?set=${id}`} className="link min-w-0 truncate">
                  {stem}
                </RoomLink>
                <span className="quiet flex-1">{count}</span>
                <button className="link" aria-label={`Rename the set ${stem}, or join it to another`} onClick={() => setRenaming(id)}>
                  rename, join
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      <datalist id="sets-there">
        {sets.map(({ id, stem }) => (
          <option key={id} value={stem} />
        ))}
      </datalist>
    </>
  );
}
