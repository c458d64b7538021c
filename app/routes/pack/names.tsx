import { useState } from 'react';
import { fieldRoles, fieldRoleWords, type FieldRole } from '~core/names/pattern';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { toast } from '~/ui/toast';
import type { NameGroup } from '~server/services/names.server';

/** Each role has a colour and a line under it, so that it is told without the colour too. */
const looks: Readonly<Record<FieldRole, string>> = {
  tempo: 'border-b-4 border-solid border-primary',
  key: 'border-b-4 border-double border-info',
  number: 'border-b-2 border-dotted border-base-content/60',
  letter: 'border-b-2 border-dashed border-base-content/60',
  code: 'border-b-2 border-solid border-base-content/30',
  words: 'border-b-2 border-transparent',
};

/** How the names of a pack are read, part by part; said otherwise once, all of them are read so. */
export function Names({ packId, groups, onSaid }: { packId: number; groups: readonly NameGroup[]; onSaid: () => void }) {
  const say = async (signature: string, roles: readonly FieldRole[] | null, isUndo = false) => {
    const body = new URLSearchParams([['signature', signature], ...(roles ?? []).map((role) => ['role', role])]),
      answer = await askOrTell<{ before: readonly FieldRole[] | null }>(api.packNames(packId), { method: roles ? 'put' : 'delete', body });
    if (!answer) return;
    if (!isUndo)
      toast('All names of this shape are read so.', {
        action: { label: 'Undo', onClick: () => void say(signature, answer.before, true) },
      });
    onSaid();
  };
  return (
    <section className="panel p-3" aria-labelledby="names-title">
      <h2 id="names-title">How its names are read</h2>
      <ul className="mt-2 flex flex-col gap-4">
        {groups.map((group) => (
          <Group key={`${group.signature} ${group.roles.join()}`} group={group} onSay={(roles) => void say(group.signature, roles)} />
        ))}
      </ul>
    </section>
  );
}

function Group({
  group: { signature, roles, isSaid, count, examples },
  onSay,
}: {
  group: NameGroup;
  onSay: (roles: readonly FieldRole[] | null) => void;
}) {
  const parts = examples[0].length,
    [chosen, setChosen] = useState<readonly FieldRole[]>(roles.length === parts ? roles : Array.from({ length: parts }, () => 'words')),
    isChanged = chosen.some((role, k) => role !== roles[k]);
  return (
    <li data-names={signature}>
      <p className="quiet">
        {count} names of {parts} parts
        {isSaid ? ', read as somebody said' : roles.length > 0 ? ', as learnt from them and what is heard' : ', each read by itself'}
      </p>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={`Names of ${parts} parts`}>
        <table className="mt-1">
          <thead>
            <tr>
              {chosen.map((role, k) => (
                <th key={k} className="pr-3 text-left font-normal">
                  <select
                    className="select select-xs w-auto"
                    aria-label={`Part ${k + 1} of these names is`}
                    value={role}
                    onChange={(event) => setChosen(chosen.map((each, at) => (at === k ? (event.target.value as FieldRole) : each)))}
                  >
                    {fieldRoles.map((each) => (
                      <option key={each} value={each}>
                        {fieldRoleWords[each]}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {examples.map((fields) => (
              <tr key={fields.join(' ')}>
                {fields.map((text, k) => (
                  <td key={k} className="py-0.5 pr-3 whitespace-nowrap">
                    <span className={looks[chosen[k] ?? 'words']}>{text}</span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-1 flex gap-2">
        <button className="btn btn-xs btn-primary" disabled={!isChanged} onClick={() => onSay(chosen)}>
          Read all {count} so
        </button>
        {isSaid && (
          <button className="btn btn-xs" onClick={() => onSay(null)}>
            As learnt again
          </button>
        )}
      </div>
    </li>
  );
}
