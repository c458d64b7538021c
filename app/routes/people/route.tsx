import { useEffect, useRef } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { data, useFetcher } from 'react-router';
import { personForm, readForm, type FormErrors } from '~server/forms/forms';
import { requirePerson } from '~server/http/session.server';
import { addPerson, listActivity, listPeople, type ActivityRow } from '~server/services/people.server';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'People · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  await requirePerson(request);
  const [people, activity] = await Promise.all([listPeople(), listActivity()]);
  return { people, activity };
}

export async function action({ request }: Route.ActionArgs) {
  const person = await requirePerson(request);
  const read = await readForm(personForm, await request.formData());
  if (!read.ok) return data<{ errors: FormErrors; added: string | null }>({ errors: read.errors, added: null }, { status: 400 });
  const result = await addPerson(read.values.name, read.values.password, person.id);
  return result.ok
    ? { errors: {} as FormErrors, added: read.values.name }
    : data<{ errors: FormErrors; added: string | null }>(
        { errors: { name: 'Somebody with that name is here already.' }, added: null },
        { status: 409 },
      );
}

function sentence({ verb, subject, detail }: ActivityRow): string {
  const name = typeof detail.name === 'string' ? ` “${detail.name}”` : typeof detail.pack === 'string' ? ` “${detail.pack}”` : '';
  const attribute = typeof detail.attribute === 'string' ? ` (${detail.attribute})` : '';
  return `${verb} a ${subject}${name}${attribute}${typeof detail.loops === 'number' ? `, ${detail.loops} loops` : ''}`;
}

export default function People({ loaderData }: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>(),
    errors: FormErrors = fetcher.data?.errors ?? {},
    form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (fetcher.data?.added) form.current?.reset();
  }, [fetcher.data]);
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
              </tr>
            ))}
          </tbody>
        </table>
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
      <fetcher.Form ref={form} method="post" className="panel flex flex-col gap-3 self-start p-4" noValidate>
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
    </div>
  );
}
