import express from 'express';
import { createServer } from 'vite';

/** Development: Vite in front of the same application. */
async function main(): Promise<void> {
  const vite = await createServer({ server: { middlewareMode: true }, appType: 'custom' });
  const outer = express();
  outer.use(vite.middlewares);
  outer.use(async (request, response, next) => {
    try {
      (await vite.ssrLoadModule('./server/app.ts')).app(request, response, next);
    } catch (error) {
      vite.ssrFixStacktrace(error as Error);
      next(error);
    }
  });
  const { migrate } = await vite.ssrLoadModule('./server/db/migrate.ts');
  await migrate();
  outer.listen(Number(process.env.PORT ?? 3000), '127.0.0.1');
}

void main();
