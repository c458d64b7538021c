import { useId, useState } from 'react';
import type { DuplicateWay } from '~core/imports/options';
import type { VendorHabits } from '~server/services/imports/progress.server';

/** What becomes of files that the library has already. */
const duplicateWords: Readonly<Record<DuplicateWay, string>> = {
  skip: 'files here already: skip them',
  link: 'files here already: list them here too',
  keep: 'files here already: keep both',
};

/** The fields of what is said of an import before it begins. What was said of the vendor last time is there already. */
export function DraftFields({ name, habits }: { name: string; habits: readonly VendorHabits[] }) {
  const listId = useId(),
    licenceListId = useId(),
    // Offered and not filled in: what a text in the pack says is nearer to it than what was said of the last one.
    [lastLicence, setLastLicence] = useState(''),
    [tags, setTags] = useState(''),
    [leaveOut, setLeaveOut] = useState(''),
    [duplicates, setDuplicates] = useState<DuplicateWay>('skip');
  const remember = (vendor: string) => {
    const found = habits.find((each) => each.vendor.toLowerCase() === vendor.trim().toLowerCase());
    setLastLicence(found?.licence ?? '');
    if (!found) return;
    setTags(found.tags.join(', '));
    setLeaveOut(found.leaveOut.join(', '));
    setDuplicates(found.duplicates);
  };
  return (
    <>
      <Line label="Pack">
        <input name="packName" className="input input-sm flex-1" required defaultValue={name} />
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
      <Line label="About">
        <textarea
          name="description"
          rows={2}
          maxLength={2000}
          className="textarea textarea-sm min-h-0 flex-1"
          placeholder="left empty, a readme in the pack says it"
        />
      </Line>
      <Line label="Known">
        <select
          name="duplicates"
          className="select select-sm flex-1"
          aria-label="Files that the library has already"
          value={duplicates}
          onChange={(event) => setDuplicates(event.target.value as DuplicateWay)}
        >
          {Object.entries(duplicateWords).map(([way, words]) => (
            <option key={way} value={way}>
              {words}
            </option>
          ))}
        </select>
      </Line>
    </>
  );
}

/** A field with its name beside it. */
export function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <label className="flex items-center gap-2">
      <span className="caps w-16">{label}</span>
      {children}
    </label>
  );
}
