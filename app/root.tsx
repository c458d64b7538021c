import { Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteLoaderData } from 'react-router';
import { useContext } from 'react';
import { NonceContext } from './ui/nonce';
import { Trouble } from './ui/trouble';
import type { Route } from './+types/root';
import { liveMark } from '~server/events/announce.server';
import { tellFaults } from '~server/http/problem.server';
import { readThemeCookie } from './ui/theme';
import './styles/app.css';

export const meta: Route.MetaFunction = () => [
  { title: 'Garnetfinch' },
  { name: 'description', content: 'One shared loop library, heard in the piece.' },
];
export const links: Route.LinksFunction = () => [{ rel: 'icon', href: '/favicon.svg', type: 'image/svg+xml' }];

export const middleware: Route.MiddlewareFunction[] = [tellFaults];

/** The mark is taken first of all loaders, before any of them reads. */
export function loader({ request }: Route.LoaderArgs) {
  return { liveMark: liveMark(), theme: readThemeCookie(request.headers.get('Cookie')) };
}

export function Layout({ children }: { children: React.ReactNode }) {
  const data = useRouteLoaderData<typeof loader>('root'),
    nonce = useContext(NonceContext);
  return (
    <html lang="en" data-theme={data?.theme ?? undefined} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="live-mark" content={data?.liveMark ?? ''} />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function Root() {
  return <Outlet />;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return (
    <main>
      <Trouble error={error}>
        <a className="link link-primary" href="/">
          Back to the library
        </a>
      </Trouble>
    </main>
  );
}
