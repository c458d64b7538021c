import type { NextFunction, Request, Response } from 'express';
import { sequelize } from '../db/connection';

/** Whether the database answered the last time it was asked; asked two seconds after each answer. */
let answers = true;

/** One that is refused is away. One that is only slow, as when every connection is busy, is not: what waits goes on waiting. */
async function ask(): Promise<void> {
  answers = await sequelize.query('select 1').then(
    () => true,
    () => false,
  );
}

/** Keeps an eye on the database, so that pages can say that it is away instead of failing one by one. */
export function watchDatabase(): void {
  const again = () => void ask().finally(() => setTimeout(again, 2_000).unref());
  again();
}

const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta http-equiv="refresh" content="3"><title>One moment · Garnetfinch</title>
<body style="font:16px/1.5 system-ui,sans-serif;max-width:32rem;margin:20vh auto;padding:0 1.5rem"><h1 style="font-size:1.4rem">One moment</h1><p>The database is away and is being started again. Nothing that was saved is lost. This page tries again by itself.</p></body></html>`;

/** While the database is away, pages say so and come back by themselves, and data answers 503. */
export function waitForDatabase(request: Request, response: Response, next: NextFunction): void {
  if (answers || request.path.startsWith('/assets/')) return next();
  response.status(503).set({ 'Retry-After': '3', 'Cache-Control': 'no-store' });
  if (request.accepts(['html', 'json']) === 'html' && request.method === 'GET') response.send(page);
  else response.json({ error: 'The database is away and is being started again.' });
}
