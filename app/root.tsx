import { Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteLoaderData } from 'react-router';
import { useContext } from 'react';
import { NonceContext } from './ui/nonce';
import { Trouble } from './ui/trouble';
import type { Route } from './+types/root';
import { readThemeCookie } from './ui/theme';
import './styles/app.css';

export const meta: Route.MetaFunction = () => [
  { title: 'Garnetfinch' },
  { name: 'description', content: 'One shared loop library, heard in the piece.' },
];
export const links: Route.LinksFunction = () => [{ rel: 'icon', href: '/favicon.svg', type: 'image/svg+xml' }];

export function loader({ request }: Route.LoaderArgs) {
  return { theme: readThemeCookie(request.headers.get('Cookie')) };
}

export function Layout({ children }: { children: React.ReactNode }) {
  const theme = useRouteLoaderData<typeof loader>('root')?.theme,
    nonce = useContext(NonceContext);
  return (
    <html lang="en" data-theme={theme ?? undefined} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
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
