import { useId, useState } from 'react';
import type { VendorHabits } from '~server/services/imports/progress.server';
import type { Picked } from './upload';
import { megabytes } from './words';

/** A pack's name by what was picked: the folder's, or the file's. */
export const guessName = (picked: readonly Picked[]): string => {
  const [first] = picked;
  if (!first) return '';
  return (first.path.includes('/') ? first.path.split('/')[0] : first.path.replace(/\.[A-Za-z0-9]+$/, '')).replace(/[_-]+/g, ' ');
};

/** What is said of an import before it begins. What was said of the vendor last time is there already. */
export function DraftForm({
  picked,
  habits,
  onSend,
  onLeave,
}: {
  picked: readonly Picked[];
  habits: readonly VendorHabits[];
  onSend: (form: FormData) => void;
  onLeave: () => void;
}) {
  const listId = useId(),
    licenceListId = useId(),
    // Offered and not filled in: what a text in the pack says is nearer to it than what was said of the last one.
    [lastLicence, setLastLicence] = useState(''),
    [tags, setTags] = useState(''),
    [leaveOut, setLeaveOut] = useState('');
  const remember = (vendor: string) => {
    const found = habits.find((each) => each.vendor.toLowerCase() === vendor.trim().toLowerCase());
    setLastLicence(found?.licence ?? '');
    if (!found) return;
    setTags(found.tags.join(', '));
    setLeaveOut(found.leaveOut.join(', '));
  };
  return (
    <form
      className="panel mt-3 flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onSend(new FormData(event.currentTarget));
      }}
    >
      <p>
        <strong>{picked.length}</strong> {picked.length === 1 ? 'file' : 'files'},{' '}
        {megabytes(picked.reduce((sum, each) => sum + each.file.size, 0))}
      </p>
      <Line label="Pack">
        <input name="packName" className="input input-sm flex-1" required defaultValue={guessName(picked)} />
      </Line>
      <Line label="Vendor">
        <input name="vendor" className="input input-sm flex-1" list={listId} onChange={(event) => remember(event.target.value)} />
        <datalist id={listId}>
          {habits.map(({ vendor }) => (
            <option key={vendor} value={vendor} />
          ))}
        </datalist>
      </Line>
      <Line label="Licence">
        <input
          name="licence"
          className="input input-sm flex-1"
          placeholder={lastLicence ? `last time: ${lastLicence}` : 'as the vendor states it'}
          list={licenceListId}
        />
        <datalist id={licenceListId}>{lastLicence && <option value={lastLicence} />}</datalist>
      </Line>
      <Line label="Tags">
        <input
          name="tags"
          className="input input-sm flex-1"
          placeholder="for all of it: rain, late"
          value={tags}
          onChange={(event) => setTags(event.target.value)}
        />
      </Line>
      <Line label="Without">
        <input
          name="leaveOut"
          className="input input-sm flex-1"
          placeholder="folders or endings: demos, .mid"
          value={leaveOut}
          onChange={(event) => setLeaveOut(event.target.value)}
        />
      </Line>
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-ghost" onClick={onLeave}>
          Leave it
        </button>
        <button className="btn btn-sm btn-primary">Import</button>
      </div>
    </form>
  );
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <label className="flex items-center gap-2">
      <span className="caps w-16">{label}</span>
      {children}
    </label>
  );
}
