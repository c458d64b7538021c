import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { expect } from '@playwright/test';
import { pieceOf } from './piece';
import { importFiles, signIn, test, visit, wavOf } from './support';

/** A second process for pages, over the same database and files. */
async function secondServer(): Promise<{ address: string; stop: () => Promise<void> }> {
  const finder = createServer().listen(0, '127.0.0.1');
  await once(finder, 'listening');
  const { port } = finder.address() as AddressInfo;
  finder.close();
  const child = spawn(process.execPath, ['scripts/serve.mjs', 'web'], {
      stdio: 'inherit',
      env: {
        ...process.env,
        DATABASE_URL: process.env.TEST_DATABASE_URL,
        GARNETFINCH_DATA: process.env.TEST_DATA,
        PORT: String(port),
        NODE_ENV: 'production',
      },
    }),
    address = `http://127.0.0.1:${port}`;
  await expect
    .poll(
      () =>
        fetch(`${address}/sign-in`).then(
          ({ ok }) => ok,
          () => false,
        ),
      { timeout: 60_000 },
    )
    .toBe(true);
  return {
    address,
    stop: async () => {
      const ended = once(child, 'exit');
      child.kill();
      await ended;
    },
  };
}

test('two servers over one library: what is changed at one is found at the other by the next question, and its open pages hear of it', async ({
  page,
}) => {
  test.slow();
  const second = await secondServer();
  try {
    await signIn(page);
    const mark = `quokka${Date.now().toString(36)}`,
      ids = await importFiles(page.request, `Two servers ${mark}`, [
        { path: 'first name.wav', bytes: wavOf(0.4, (t) => 0.4 * Math.sin(2 * Math.PI * 311 * t)) },
      ]),
      id = ids.get('first name.wav') as number,
      // Cookies know no ports: who is signed in at one is so at the other.
      foundAtSecond = async () =>
        ((await (await page.request.get(`${second.address}/api/v1/loops?q=${mark}drum`)).json()) as { rows: { id: number }[] }).rows.map(
          (row) => row.id,
        );
    expect(await foundAtSecond()).toEqual([]);
    // Not polled: the answer behind the change has to hold it already.
    for (const [title, wanted] of [
      [`${mark}drum`, [id]],
      ['another name', []],
      [`late ${mark}drum`, [id]],
    ] as const) {
      expect((await page.request.put(`/api/v1/loops/${id}/title`, { form: { title } })).ok()).toBe(true);
      expect(await foundAtSecond()).toEqual(wanted);
    }
    expect((await page.request.put('/api/v1/loops/archived', { form: { loopId: String(id) } })).ok()).toBe(true);
    expect(await foundAtSecond()).toEqual([]);

    const project = await pieceOf(page, `Two servers ${mark}`, [['Shaker 62 A', 8]]),
      there = await page.context().newPage();
    await visit(there, `${second.address}/projects/${project}`);
    await expect(there.locator('[data-clip]')).toHaveCount(1);
    await page
      .locator('[data-clip]')
      .first()
      .click({ position: { x: 40, y: 30 } });
    await page.keyboard.press('Delete');
    await expect(page.locator('[data-clip]')).toHaveCount(0);
    await expect(there.locator('[data-clip]')).toHaveCount(0);
    await there.close();
  } finally {
    await second.stop();
  }
});
