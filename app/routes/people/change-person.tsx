import { useState } from 'react';
import { api } from '~/ui/api';
import { ask, withForm } from '~/ui/ask';
import { Popover } from '~/ui/popover';
import { toast } from '~/ui/toast';
import { useRenewal } from '~/ui/use-renewal';
import { useSend } from '~/ui/use-send';
import type { PersonRow } from '~server/services/people.server';

const roleWords = { keeper: 'is a keeper now.', member: 'is a member now.' } as const;

/** What a keeper may do to somebody: what they may do, a new password for who forgot theirs, the door. Each but the password with a way back. */
export function ChangePerson({ person: { id, name, role } }: { person: PersonRow }) {
  const send = useSend(),
    renew = useRenewal(),
    [wrong, setWrong] = useState<string | null>(null),
    other = role === 'keeper' ? 'member' : 'keeper';
  const giveRole = async (next: 'keeper' | 'member', before: 'keeper' | 'member') => {
    if (await send(api.person(id), 'put', { role: next }))
      toast(`${name} ${roleWords[next]}`, { action: { label: 'Undo', onClick: () => void giveRole(before, next) } });
  };
  const givePassword = async (node: HTMLFormElement) => {
    const password = String(new FormData(node).get('password')),
      given = await ask(api.person(id), withForm('put', { password }));
    setWrong(given.ok ? null : given.wrong);
    if (!given.ok) return;
    node.reset();
    void renew();
    toast(`${name} signs in with the new password from now on.`);
  };
  const remove = async () => {
    if (await send(api.person(id), 'delete'))
      toast(`${name} can no longer sign in. What they brought in stays.`, {
        action: { label: 'Undo', onClick: () => void send(api.person(id), 'put', { isHere: 1 }) },
      });
  };
  return (
    <Popover label="Change" hint={`Change ${name}`}>
      <h2>{name}</h2>
      <p className="quiet mt-1">
        {role === 'keeper'
          ? 'A keeper: may also add and remove people, and archive, stop and delete what others brought in.'
          : 'A member: brings in, finds, places, and says what loops are.'}
      </p>
      <button className="btn btn-sm mt-2" onClick={() => void giveRole(other, role as 'keeper' | 'member')}>
        Make them a {other}
      </button>
      <form
        className="mt-4 flex items-end gap-2"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void givePassword(event.currentTarget);
        }}
      >
        <label className="flex min-w-0 flex-1 flex-col gap-1">
          <span className="caps">A new password, for who forgot theirs</span>
          <input
            name="password"
            type="password"
            className="input input-sm w-full"
            autoComplete="new-password"
            aria-invalid={wrong !== null}
          />
        </label>
        <button className="btn btn-sm">Give it</button>
      </form>
      {wrong && (
        <p className="text-error mt-1" role="alert">
          {wrong}
        </p>
      )}
      <button className="btn btn-sm mt-4" onClick={() => void remove()}>
        Remove {name}
      </button>
    </Popover>
  );
}
