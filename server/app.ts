import { setMaxListeners, type EventEmitter } from 'node:events';
import { join, resolve } from 'node:path';
import { BrotliCompress, Gzip } from 'node:zlib';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import express from 'express';
import { config } from './config.server';
import { migrate } from './db/migrate';
import { whileWanted } from './db/wanted';
import { eventStream } from './http/event-stream.server';
import { guards } from './http/guard.server';
import { waitForDatabase, watchDatabase } from './http/health.server';
import { onlyKnownMethods } from './http/methods.server';
import { faultWords, isOfApi, sendProblem } from './http/problem.server';
import { resumableUploads, uploadsPath } from './http/uploads.server';
import { log } from './log.server';
import { openFinder } from './search/finder.server';
import { learnInstruments } from './services/instruments.server';
import { demoNames } from './services/demo.server';
import { closeDemoSessions } from './services/sessions.server';

export const app = express();
app.disable('x-powered-by');
app.set('trust proxy', /^\d+$/.test(config.trustedProxy) ? Number(config.trustedProxy) : config.trustedProxy || false);
app.use(guards);
// A long page waits many times for the line to drain, and `compression` (1.8.1) forgets to unhear each wait until the page is through.
setMaxListeners(1000, Gzip.prototype as EventEmitter, BrotliCompress.prototype as EventEmitter);
app.use(compression({ filter: (request, response) => !request.path.startsWith('/media/') && compression.filter(request, response) }));

if (process.env.NODE_ENV === 'production') {
  const client = resolve('build/client');
  app.use('/assets', express.static(join(client, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(client, { maxAge: '1h', index: false }));
}

app.use(onlyKnownMethods);
app.use(waitForDatabase);
// What only reads is not read to its end for somebody who has gone: the next keystroke has asked anew.
app.use((request, response, next) => {
  if (request.method !== 'GET') return next();
  const leaving = new AbortController();
  response.once('close', () => response.writableFinished || leaving.abort());
  whileWanted(leaving.signal, next);
});
app.get('/events', eventStream);
app.all(`${uploadsPath}{/*upload}`, resumableUploads);
// A function is asked again with each request, and all routes ranked anew: for development, where they change.
const pages = () => import('virtual:react-router/server-build');
app.use(createRequestHandler({ build: process.env.NODE_ENV === 'production' ? await pages() : pages }));

app.use(
  (
    error: Error & { status?: number; code?: string },
    request: express.Request,
    response: express.Response,
    _next: express.NextFunction,
  ) => {
    const gone = error.code === 'ECONNRESET' || error.code === 'ERR_STREAM_PREMATURE_CLOSE' || error.message === 'aborted';
    if (!gone) log.error(error);
    if (response.headersSent) return;
    if (isOfApi(request.path)) sendProblem(response, error.status ?? 500, faultWords);
    else response.status(error.status ?? 500).send(faultWords);
  },
);

/** Serves the pages until the process is asked to end. */
export async function serveWeb(port: number): Promise<void> {
  await migrate();
  if (!config.demo) await closeDemoSessions(demoNames);
  watchDatabase();
  await learnInstruments();
  openFinder();
  // What one request forgot to hear fail is no reason to end what everybody else does.
  process.on('unhandledRejection', (reason) => log.error(reason, 'a promise failed unheard'));
  const server = app.listen(port, config.listenAddress);
  server.keepAliveTimeout = 65_000; // longer than clients keep theirs, or they send into a connection that is just closing
  server.headersTimeout = 20_000;
  server.requestTimeout = 0; // a slow upload may take as long as it goes on coming; `guards` ends the others
  await new Promise<void>((ready) => {
    server.once('listening', ready);
    server.once('error', (error: Error & { code?: string }) => {
      if (error.code === 'EADDRINUSE') process.stderr.write(`Port ${port} is taken by another program. Set PORT to a free one.\n`);
      else log.error(error);
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
