// npm run bench:project: a project of 64 tracks with 100 clips each, next to one of a single clip in the same run: opening it, scrolling and zooming it,
// what a drag's edit costs on the wire, in the database and in time, and how long until it is in the schedule. TEST_ADDRESS measures an application that
// runs already, without what is stored; else one is started with the demo library.
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

const place = join(dataDir, 'bench-project'),
  sizes = [
    { name: '1 track, 1 clip', tracks: 1, clips: 1 },
    { name: '64 tracks, 6,400 clips', tracks: 64, clips: 100 },
  ];
const ms = (list) => `p50 ${quantile(list, 0.5).toFixed(1)} ms, p95 ${quantile(list, 0.95).toFixed(1)} ms (${list.length})`;

/** Makes a project by the API, as a page does. @returns its id */
async function makeProject(page, { name, tracks, clips }) {
  return page.evaluate(
    async ({ name, tracks, clips }) => {
      const ask = async (address, body, type) =>
        (await fetch(address, { method: 'POST', body, headers: type ? { 'Content-Type': type } : {} })).json();
      const { id } = await ask(
          '/api/v1/projects',
          new URLSearchParams({ intent: 'create', name, tempo: '120', key: 'none', meter: '4/4' }),
        ),
        { rows } = await (await fetch('/api/v1/loops?kind=loop&limit=40&sort=title&dir=asc&in=none')).json();
      let revision = 0;
      for (let track = 0; track < tracks; track++) {
        const edit = {
            kind: 'add-track',
            index: track,
            track: {
              kind: 'track',
              id: `t${track}`,
              name: `Track ${track + 1}`,
              colour: track % 6,
              gainDb: -24,
              pan: 0,
              muted: false,
              soloed: false,
              setAside: false,
              clips: Array.from({ length: clips }, (_, clip) => ({
                kind: 'clip',
                id: `t${track}c${clip}`,
                content: { kind: 'loop', loopId: rows[(track + clip) % rows.length].id },
                startBeat: clip * 8,
                lengthBeats: 8,
                offsetBeats: 0,
                gainDb: 0,
                fadeInBeats: 0,
                fadeOutBeats: 0,
                muted: false,
                landsAfterBeats: null,
                chordWay: null,
                shiftMarks: null,
                shiftSemitones: 0,
                followTempo: true,
                followKey: true,
                overrides: {},
              })),
            },
          },
          answer = await ask(
            `/api/v1/projects/${id}/edits`,
            JSON.stringify({ revision, steps: [{ stepId: `s${track}`, edit }] }),
            'application/json',
          );
        if (!answer.ok) throw new Error(answer.message);
        revision = answer.revision;
      }
      return id;
    },
    { name, tracks, clips },
  );
}

/** The time of each frame while something is done before each. */
const frames = (page, kind, count) =>
  page.evaluate(
    async ([what, times]) => {
      const scroller = document.querySelector('[data-lane]').closest('.overflow-auto'),
        found = [];
      let last = performance.now(),
        left = 0,
        top = 0;
      for (let step = 0; step < times; step++) {
        if (what === 'across') scroller.scrollLeft = left += 60;
        else if (what === 'down') scroller.scrollTop = top = (top + 40) % 3000;
        else if (what === 'zoom') {
          const box = scroller.getBoundingClientRect();
          scroller.dispatchEvent(
            new WheelEvent('wheel', {
              deltaY: step % 20 < 10 ? 60 : -60,
              ctrlKey: true,
              clientX: box.left + 600,
              bubbles: true,
              cancelable: true,
            }),
          );
        }
        await new Promise(requestAnimationFrame);
        const now = performance.now();
        found.push(now - last);
        last = now;
      }
      return found.slice(5);
    },
    [kind, count],
  );

/** Edits as a drag makes them, one after the other: in the page, on the wire, until they are saved. */
async function edits(page, count) {
  const sent = [],
    answered = [];
  page.on(
    'request',
    (request) => request.url().endsWith('/edits') && request.method() === 'POST' && sent.push(request.postData()?.length ?? 0),
  );
  page.on('requestfinished', async (request) => {
    if (request.url().endsWith('/edits') && request.method() === 'POST')
      answered.push(request.timing().responseEnd - request.timing().requestStart);
  });
  const times = await page.evaluate(async (many) => {
    const { projectStore } = window.garnetfinch,
      saved = () =>
        new Promise((next) => {
          const check = () => (projectStore.store.getState().save === 'saved' ? next() : setTimeout(check, 1));
          check();
        }),
      found = { applied: [], saved: [] };
    for (let k = 0; k < many; k++) {
      const began = performance.now();
      projectStore.edit({ kind: 'set-clip', clipId: 't0c0', trackId: 't0', changes: { startBeat: (k % 7) * 1.25 } });
      found.applied.push(performance.now() - began);
      await saved();
      found.saved.push(performance.now() - began);
    }
    return found;
  }, count);
  return { ...times, sentBytes: Math.max(...sent), answered };
}

async function storedBytes(databaseUrl, projectId) {
  if (!databaseUrl) return null;
  const { Client } = (await import('pg')).default,
    client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const {
    rows: [{ bytes }],
  } = await client.query(
    'select max(pg_column_size(e.*)) as bytes from project_edits e where project_id = $1 and revision > (select max(revision) - 20 from project_edits where project_id = $1)',
    [projectId],
  );
  await client.end();
  return bytes;
}

async function bench(address, databaseUrl) {
  const browser = await openBrowser(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/sign-in`);
  await page.getByRole('button', { name: 'Ines Marlowe' }).click();
  await page.waitForSelector('html[data-ready=yes]');
  for (const size of sizes) {
    const id = await makeProject(page, size);
    say(`\n${size.name}`);
    const began = performance.now();
    await page.goto(`${address}/projects/${id}`);
    await page.waitForSelector('[data-clip]');
    say(`  opened, first clip there: ${(performance.now() - began).toFixed(0)} ms`);
    say(`  boxes of clips in the page: ${await page.locator('[data-clip]').count()}, canvases: ${await page.locator('canvas').count()}`);
    await page.evaluate(() => new Promise((next) => setTimeout(next, 1500)));
    for (const [kind, words] of [
      ['nothing', 'frames while nothing moves (reference)'],
      ['across', 'frames while it scrolls across, 60 pixels each'],
      ['down', 'frames while it scrolls down, 40 pixels each'],
      ['zoom', 'frames while it zooms, a step each'],
    ])
      say(`  ${words}: ${ms(await frames(page, kind, 125))}`);
    // All of it on screen at once.
    await page.getByRole('button', { name: 'Zoom to all' }).click();
    await page.evaluate(() => new Promise((next) => setTimeout(next, 500)));
    say(`  seen whole, boxes: ${await page.locator('[data-clip]').count()}; frames down: ${ms(await frames(page, 'down', 125))}`);
    const { applied, saved, sentBytes, answered } = await edits(page, 40),
      stored = await storedBytes(databaseUrl, id);
    say(`  an edit: in the page and in the schedule ${ms(applied)}; saved ${ms(saved)}; answered ${ms(answered)}`);
    say(`  sent ${sentBytes} bytes${stored === null ? '' : `, stored ${stored} bytes`}`);
  }
  await browser.close();
}

await main(async () => {
  checkNode();
  ensurePackages();
  ensureChromium();
  say(
    `${cpus().length} cores, load ${loadavg()
      .map((each) => each.toFixed(1))
      .join(' ')}. Shared machines are noisy: read the ratios.`,
  );
  if (process.env.TEST_ADDRESS) return bench(process.env.TEST_ADDRESS, process.env.DATABASE_URL ?? null);
  await ensureBuild();
  await buildPoolWorkers();
  const app = await startApplication({ port: 3128, dataDir: place, outsideUrl: undefined, quiet: true });
  try {
    await bench(app.address, app.databaseUrl);
  } finally {
    await app.stop();
    removeCluster(place);
    rmSync(place, { recursive: true, force: true });
  }
});
