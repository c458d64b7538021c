// npm run bench:workbench: a loop on the bench: opening it, moving a handle until it is made and until it is heard, and what each step costs against the
// sound's own length; beside it, in the same run, the same with no step at all. TEST_ADDRESS measures an application that runs already; else one is
// started with the demo library.
import { rmSync } from 'node:fs';
import { cpus, loadavg } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './lib/application.mjs';
import { openBrowser } from './lib/browser.mjs';
import { buildPoolWorkers, ensureBuild } from './lib/build.mjs';
import { quantile } from './lib/figures.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/packages.mjs';
import { dataDir, say } from './lib/paths.mjs';
import { removeCluster } from './lib/postgres.mjs';

const place = join(dataDir, 'bench-workbench'),
  times = 15,
  loops = ['Piston A1', 'Piano Chords 01', 'Flute'];
const ms = (list) => `p50 ${quantile(list, 0.5).toFixed(0)} ms, p95 ${quantile(list, 0.95).toFixed(0)} ms (${list.length})`;

const ready = (page) =>
  page.waitForFunction(() => document.querySelector('[data-bench]')?.dataset.bench === 'ready', null, { timeout: 60_000 });

/** Does something to the bench and waits until it is made. @returns how long that took, by the page's clock */
async function timed(page, act) {
  const began = await page.evaluate(() => performance.now());
  await act();
  await page.waitForFunction(() => document.querySelector('[data-bench]')?.dataset.bench === 'ready', null, {
    timeout: 60_000,
    polling: 'raf',
  });
  return (await page.evaluate(() => performance.now())) - began;
}

async function addStep(page, name) {
  await page.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('menuitem', { name }).click();
}

async function bench(address) {
  const browser = await openBrowser(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/sign-in`);
  await page.getByRole('button', { name: 'Ines Marlowe' }).click();
  await page.waitForSelector('html[data-ready=yes]');
  for (const title of loops) {
    const { rows } = await (
        await page.request.get(`${address}/api/v1/loops?q=${encodeURIComponent(title)}&kind=loop&limit=1&in=none`)
      ).json(),
      [row] = rows,
      opened = [];
    for (let k = 0; k < 5; k++) {
      const began = performance.now();
      await page.goto(`${address}/workbench/${row.id}`);
      await ready(page);
      opened.push(performance.now() - began);
    }
    say(`\n${row.title}, ${row.lengthSeconds.toFixed(1)} s`);
    say(`  opened, drawn and ready: ${ms(opened)}`);
    await addStep(page, /^Part/);
    await ready(page);
    await page.getByLabel('Handles snap to').selectOption('off');
    const handle = page.getByRole('slider', { name: 'Where it starts' }),
      moved = [],
      heard = [];
    await handle.focus();
    for (let k = 0; k < times; k++) moved.push(await timed(page, () => page.keyboard.press('ArrowRight')));
    say(`  a handle moved, until it is made: ${ms(moved)}`);
    await page.getByRole('button', { name: 'Hear it' }).click();
    const sounding = () =>
      page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
    await sounding();
    await handle.focus();
    for (let k = 0; k < times; k++) {
      const before = await page.evaluate(() => window.garnetfinch.engine.store.getState().candidate.row.source.soundSha),
        began = await page.evaluate(() => performance.now());
      await page.keyboard.press('ArrowRight');
      await page.waitForFunction(
        (old) => {
          const { candidate } = window.garnetfinch.engine.store.getState();
          return candidate?.row.source.soundSha !== old && candidate?.phase === 'sounding';
        },
        before,
        { timeout: 30_000, polling: 'raf' },
      );
      heard.push((await page.evaluate(() => performance.now())) - began);
    }
    say(`  a handle moved, until it is heard alone: ${ms(heard)}`);
    await page.getByRole('button', { name: 'Silence' }).first().click();
    await page.getByRole('button', { name: 'Part out' }).click();
    await ready(page);
    const nothing = await took(page);
    say(
      `  rendered with no step: ${nothing.toFixed(0)} ms, ${((row.lengthSeconds * 1000) / Math.max(1, nothing)).toFixed(0)} times real time (reference)`,
    );
    for (const name of ['Onto the grid', 'Notes of a line', 'Retune', 'Clean', 'Layers']) {
      await addStep(page, new RegExp(`^${name}`));
      await ready(page);
      if (name === 'Retune') {
        await page.getByLabel('Semitones').focus();
        await page.keyboard.press('ArrowRight');
        await page.getByLabel('Cents').focus();
      }
      if (name === 'Clean')
        await page
          .getByLabel('Low cut, Hz')
          .fill('60')
          .then(() => page.keyboard.press('Enter'));
      if (name === 'Layers') await page.getByRole('button', { name: '−24, 0, +24' }).click();
      await page.waitForTimeout(150);
      await ready(page);
      const cost = await took(page);
      say(`  rendered with ${name}: ${cost.toFixed(0)} ms, ${((row.lengthSeconds * 1000) / Math.max(1, cost)).toFixed(1)} times real time`);
      await page.getByRole('button', { name: `${name} out` }).click();
      await ready(page);
    }
  }
  await browser.close();
}

/** What the last rendering took in the worker. */
const took = (page) => page.evaluate(() => Number(document.querySelector('[data-bench]').dataset.benchMs));

await main(async () => {
  checkNode();
  ensurePackages();
  ensureChromium();
  say(
    `${cpus().length} cores, load ${loadavg()
      .map((each) => each.toFixed(1))
      .join(' ')}. Shared machines are noisy: read the ratios.`,
  );
  if (process.env.TEST_ADDRESS) return bench(process.env.TEST_ADDRESS);
  await ensureBuild();
  await buildPoolWorkers();
  const app = await startApplication({ port: 3129, dataDir: place, outsideUrl: undefined, quiet: true });
  try {
    await bench(app.address);
  } finally {
    await app.stop();
    removeCluster(place);
    rmSync(place, { recursive: true, force: true });
  }
});
