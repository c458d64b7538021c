import { data, Form, redirect, useNavigation } from 'react-router';
import { readForm, signInForm, type FormErrors } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { clientAddress, pathOfOurs, sessionCookie, sessionToken } from '~server/http/session.server';
import { findSignedIn, signIn } from '~server/services/sessions.server';
import { offeredAccounts } from '~server/services/demo.server';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Sign in · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  if (await findSignedIn(await sessionToken(request))) throw redirect('/');
  return { accounts: offeredAccounts() };
}

export async function action({ request }: Route.ActionArgs) {
  const form = await readFormData(request),
    read = await readForm(signInForm, form);
  if (!read.ok)
    return data<{ errors: FormErrors; name: string }>({ errors: read.errors, name: String(form.get('name') ?? '') }, { status: 400 });
  const result = await signIn(read.values.name, read.values.password, clientAddress(request));
  if (!result.ok)
    return data<{ errors: FormErrors; name: string }>(
      {
        errors: {
          form:
            result.reason === 'too-many'
              ? `Too many tries. Please wait ${waitText(result.waitSeconds)}.`
              : 'Name and password do not go together.',
        },
        name: read.values.name,
      },
      result.reason === 'too-many' ? { status: 429, headers: { 'Retry-After': String(result.waitSeconds) } } : { status: 401 },
    );
  return redirect(pathOfOurs(new URL(request.url).searchParams.get('to')), {
    headers: { 'Set-Cookie': await sessionCookie(result.token, result.maxAgeSeconds, request) },
  });
}

const waitText = (seconds: number): string => (seconds <= 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`);

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle',
    errors = actionData?.errors ?? {};
  return (
    <main className="h-dvh overflow-auto">
      <div className="mx-auto flex max-w-3xl flex-wrap items-start gap-10 px-6 pt-[14vh]">
        <div className="w-80">
          <img src="/mark.svg" alt="" className="mb-4 size-11" />
          <h1>Garnetfinch</h1>
          <p className="quiet mt-1">One loop library for all of us, heard in the piece you are making.</p>
          <Form method="post" className="mt-6 flex flex-col gap-3" noValidate>
            <label className="flex flex-col gap-1">
              <span className="caps">Name</span>
              <input
                className="input w-full"
                name="name"
                autoComplete="username"
                defaultValue={actionData?.name}
                aria-invalid={Boolean(errors.name)}
              />
            </label>
            {errors.name && (
              <p className="text-error" role="alert">
                {errors.name}
              </p>
            )}
            <label className="flex flex-col gap-1">
              <span className="caps">Password</span>
              <input
                className="input w-full"
                type="password"
                name="password"
                autoComplete="current-password"
                aria-invalid={Boolean(errors.password)}
              />
            </label>
            {(errors.password ?? errors.form) && (
              <p className="text-error" role="alert">
                {errors.password ?? errors.form}
              </p>
            )}
            <button className="btn btn-primary mt-1" disabled={busy}>
              Sign in
            </button>
          </Form>
        </div>
        {loaderData.accounts.length > 0 && (
          <section className="panel mt-14 w-80 p-4" aria-labelledby="demo-accounts">
            <h2 id="demo-accounts">Saltmarsh Radio, the demo</h2>
            <p className="quiet mt-1">A small collective that scores an audio drama about a night ferry. Come in as one of them:</p>
            <ul className="mt-3 flex flex-col gap-2">
              {loaderData.accounts.map((account) => (
                <li key={account.name}>
                  <Form method="post">
                    <input type="hidden" name="name" value={account.name} />
                    <input type="hidden" name="password" value={account.password} />
                    <button className="btn btn-outline w-full justify-start" disabled={busy}>
                      {account.name}
                    </button>
                  </Form>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </main>
  );
}
