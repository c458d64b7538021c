import { join, resolve } from 'node:path';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import express from 'express';
import { migrate } from './db/migrate';

export const app = express();
app.disable('x-powered-by');
app.set('trust proxy', 'loopback');

app.use((request, response, next) => {
  // Cross-origin isolation, and nothing from elsewhere: everything the pages need ships with us.
  response.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'same-origin',
    'X-Frame-Options': 'DENY',
  });
  // A form on another site must not act in a signed-in person's name.
  const { origin, host } = request.headers;
  if (request.method !== 'GET' && request.method !== 'HEAD' && origin && new URL(origin).host !== host)
    return void response.status(403).send('This request came from another site.');
  next();
});
app.use(compression({ filter: (request, response) => !request.path.startsWith('/media/') && compression.filter(request, response) }));

if (process.env.NODE_ENV === 'production') {
  const client = resolve('build/client');
  app.use('/assets', express.static(join(client, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(client, { maxAge: '1h', index: false }));
}

app.use(createRequestHandler({ build: () => import('virtual:react-router/server-build') }));

app.use(
  (
    error: Error & { status?: number; code?: string },
    _request: express.Request,
    response: express.Response,
    _next: express.NextFunction,
  ) => {
    const gone = error.code === 'ECONNRESET' || error.code === 'ERR_STREAM_PREMATURE_CLOSE' || error.message === 'aborted';
    if (!gone) console.error(error);
    if (!response.headersSent) response.status(error.status ?? 500).send('Something went wrong on our side.');
  },
);

/** Serves the pages until the process is asked to end. */
export async function serveWeb(port: number): Promise<void> {
  await migrate();
  const server = app.listen(port, '127.0.0.1');
  server.keepAliveTimeout = 65_000; // longer than clients keep theirs, or they send into a connection that is just closing
  server.requestTimeout = 0; // a slow upload may take as long as it takes
  await new Promise<void>((ready) => {
    server.once('listening', ready);
    server.once('error', (error: Error & { code?: string }) => {
      console.error(error.code === 'EADDRINUSE' ? `Port ${port} is taken by another program. Set PORT to a free one.` : error);
      process.exit(1);
    });
  });
  const stop = () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
}

export { runJobs } from './jobs/main';
