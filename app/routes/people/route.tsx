import { useEffect, useRef } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { data, useFetcher } from 'react-router';
import { passwordForm, personForm, readForm, type FormErrors } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { requireKeeper, requirePerson, sessionToken } from '~server/http/session.server';
import { api } from '~/ui/api';
import { useSend } from '~/ui/use-send';
import { toldAction } from '~/ui/told-action';
import { addPerson, changePassword, listActivity, listPeople, listRemoved, type ActivityRow } from '~server/services/people.server';
import type { Route } from './+types/route';
import { ChangePerson } from './change-person';

export const meta: Route.MetaFunction = () => [{ title: 'People · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const me = await requirePerson(request),
    isKeeper = me.role === 'keeper',
    [people, activity, removed] = await Promise.all([listPeople(), listActivity(), isKeeper ? listRemoved() : []]);
  return { me: { id: me.id, isKeeper }, people, activity, removed };
}

interface Answer {
  readonly errors: FormErrors;
  readonly added: string | null;
  readonly changed?: boolean;
}

/** Adds somebody, which only keepers do; changes one's own password. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePerson(request),
    form = await readFormData(request),
    intent = form.get('intent');
  if (intent === 'password') {
    const read = await readForm(passwordForm, form);
    if (!read.ok) return data<Answer>({ errors: read.errors, added: null }, { status: 400 });
    const wrong = await changePassword(person.id, read.values.current, read.values.next, await sessionToken(request));
    return wrong ? data<Answer>({ errors: { current: wrong }, added: null }, { status: 400 }) : { errors: {}, added: null, changed: true };
  }
  await requireKeeper(request);
  const read = await readForm(personForm, form);
  if (!read.ok) return data<Answer>({ errors: read.errors, added: null }, { status: 400 });
  const result = await addPerson(read.values.name, read.values.password, person.id);
  return result.ok
    ? { errors: {} as FormErrors, added: read.values.name }
    : data<Answer>({ errors: { name: 'Somebody with that name is here already, or was.' }, added: null }, { status: 409 });
}

function sentence({ verb, subject, detail }: ActivityRow): string {
  const name = typeof detail.name === 'string' ? ` “${detail.name}”` : typeof detail.pack === 'string' ? ` “${detail.pack}”` : '';
  const attribute = typeof detail.attribute === 'string' ? ` (${detail.attribute})` : '';
  return `${verb} a ${subject}${name}${attribute}${typeof detail.loops === 'number' ? `, ${detail.loops} loops` : ''}`;
}

export const clientAction = toldAction;

export default function People({ loaderData }: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>(),
    errors: FormErrors = fetcher.data?.errors ?? {},
    form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (fetcher.data?.added) form.current?.reset();
  }, [fetcher.data]);
  const send = useSend();
  return (
    <div className="mx-auto grid max-w-5xl gap-8 p-6 lg:grid-cols-[1fr_20rem]">
      <section aria-labelledby="people-title">
        <h1 id="people-title">People</h1>
        <table className="table table-sm mt-3">
          <thead>
            <tr>
              <th>Name</th>
              <th className="text-right">Loops brought in</th>
              <th className="text-right">Corrections</th>
              <th className="text-right">Favourites</th>
              {loaderData.me.isKeeper && (
                <th>
                  <span className="sr-only">Change</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {loaderData.people.map((person) => (
              <tr key={person.id}>
                <td className="font-medium">
                  {person.name}
                  {person.role === 'keeper' && <span className="badge badge-sm ml-2">keeper</span>}
                </td>
                <td className="text-right">{person.loops}</td>
                <td className="text-right">{person.corrections}</td>
                <td className="text-right">{person.favourites}</td>
                {loaderData.me.isKeeper && (
                  <td className="text-right">{person.id !== loaderData.me.id && <ChangePerson person={person} />}</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
        {loaderData.removed.length > 0 && (
          <details className="mt-4">
            <summary className="cursor-pointer">No longer here ({loaderData.removed.length})</summary>
            <ul className="mt-2">
              {loaderData.removed.map(({ id, name }) => (
                <li key={id} className="flex items-center gap-3 py-1">
                  <span className="flex-1">{name}</span>
                  <button
                    className="btn btn-sm"
                    aria-label={`Let ${name} in again`}
                    onClick={() => void send(api.person(id), 'put', { isHere: 1 })}
                  >
                    Let in again
                  </button>
                </li>
              ))}
            </ul>
          </details>
        )}
        <h2 className="mt-6">What happened lately</h2>
        <ul className="mt-2 flex flex-col gap-1">
          {loaderData.activity.map((row) => (
            <li key={row.id}>
              <strong>{row.person}</strong> {sentence(row)}{' '}
              <span className="quiet" suppressHydrationWarning>
                {formatDistanceToNowStrict(new Date(row.at))} ago
              </span>
            </li>
          ))}
        </ul>
      </section>
      <div className="flex flex-col gap-5 self-start">
        <OwnPassword />
        {loaderData.me.isKeeper ? (
          <fetcher.Form ref={form} method="post" className="panel flex flex-col gap-3 p-4" noValidate>
            <h2>Add a person</h2>
            <label className="flex flex-col gap-1">
              <span className="caps">Name</span>
              <input name="name" className="input w-full" autoComplete="off" aria-invalid={Boolean(errors.name)} />
              {errors.name && (
                <span className="text-error" role="alert">
                  {errors.name}
                </span>
              )}
            </label>
            <label className="flex flex-col gap-1">
              <span className="caps">Password to begin with</span>
              <input
                name="password"
                type="password"
                className="input w-full"
                autoComplete="new-password"
                aria-invalid={Boolean(errors.password)}
              />
              {errors.password && (
                <span className="text-error" role="alert">
                  {errors.password}
                </span>
              )}
            </label>
            <button className="btn btn-primary" disabled={fetcher.state !== 'idle'}>
              Add
            </button>
            {fetcher.data?.added && <p role="status">{fetcher.data.added} can sign in now.</p>}
          </fetcher.Form>
        ) : (
          <p className="quiet">A keeper can add people, give them a new password, and remove them.</p>
        )}
      </div>
    </div>
  );
}

/** One's own password; other windows are signed out with it. */
function OwnPassword() {
  const fetcher = useFetcher<typeof action>(),
    errors: FormErrors = fetcher.data?.errors ?? {},
    form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (fetcher.data?.changed) form.current?.reset();
  }, [fetcher.data]);
  return (
    <fetcher.Form ref={form} method="post" className="panel flex flex-col gap-3 p-4" noValidate>
      <h2>Your password</h2>
      <input type="hidden" name="intent" value="password" />
      {(
        [
          ['current', 'The one you have', 'current-password'],
          ['next', 'The new one', 'new-password'],
        ] as const
      ).map(([name, label, complete]) => (
        <label key={name} className="flex flex-col gap-1">
          <span className="caps">{label}</span>
          <input name={name} type="password" className="input w-full" autoComplete={complete} aria-invalid={Boolean(errors[name])} />
          {errors[name] && (
            <span className="text-error" role="alert">
              {errors[name]}
            </span>
          )}
        </label>
      ))}
      <button className="btn" disabled={fetcher.state !== 'idle'}>
        Change it
      </button>
      {fetcher.data?.changed && <p role="status">Changed. Other windows of yours have been signed out.</p>}
    </fetcher.Form>
  );
}
