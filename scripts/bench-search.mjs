// npm run bench:search -- [--sizes 10000,100000,1000000] [--clients 1,8,32] [--seconds N] [--no-browser]: how long each kind of question takes over HTTP
// at each size and for so many people at once, next to a look-up of one loop by its number the same way in the same run; and in Chromium from a key
// to the painted list.
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { runTypeScript, startApplication } from './lib/application.mjs';
import { openBrowser } from './lib/browser.mjs';
import { buildPoolWorkers } from './lib/build.mjs';
import { signIn } from './lib/import-session.mjs';
import { quantile } from './lib/figures.mjs';
import { main } from './lib/main.mjs';
import { ensurePackages } from './lib/packages.mjs';
import { dataDir, say } from './lib/paths.mjs';
import { removeCluster } from './lib/postgres.mjs';

const { values } = parseArgs({
    options: {
      sizes: { type: 'string', default: '10000,100000,1000000' },
      clients: { type: 'string', default: '1,8,32' },
      seconds: { type: 'string', default: '4' },
      browser: { type: 'boolean', default: true },
    },
    allowNegative: true,
  }),
  sizes = values.sizes.split(',').map(Number),
  clients = values.clients.split(',').map(Number),
  seconds = Number(values.seconds),
  port = 3149,
  person = ['Ada Quill', 'a password of ten'];

const tones = ['tight', 'wide', 'warm', 'slow', 'late', 'glass', 'dust', 'rain', 'north', 'paper', 'iron', 'hollow'],
  things = ['shaker', 'kick', 'rhodes', 'bass', 'pad', 'flute', 'guitar', 'hats', 'snare', 'vox', 'strings', 'conga'],
  families = ['drums', 'percussion', 'bass', 'keys', 'guitar', 'strings', 'brass', 'wind'];

/** Kinds of questions; each asks something else each time. */
const kindsOf = (count, room) => {
  const pick = (list, k) => list[k % list.length],
    page = (search) => `/api/v1/loops?${search}&in=${room}`;
  return {
    'look-up by id': (k) => `/api/v1/loops?id=${1 + ((k * 7919) % count)}`,
    'first page by added': (k) => page(`sort=added&dir=${k % 2 ? 'asc' : 'desc'}`),
    'first page by title': (k) => page(`sort=title&dir=${k % 2 ? 'asc' : 'desc'}`),
    'first page by fit': (k) => page(`sort=fit&dir=desc&family=${pick(families, k)}`),
    'a word': (k) => page(`q=${pick(tones, k)}+${pick(things, k * 5)}`),
    'a word with an error': (k) => page(`q=${pick(things, k).split('').toSpliced(2, 1).join('')}x`),
    'three filters': (k) =>
      page(`family=${pick(families, k)}&bars=${pick([1, 2, 4, 8], k)}&kind=loop&tempo=${80 + (k % 40)}-${130 + (k % 40)}`),
    'deep in the list': (k) => page(`sort=title&dir=asc&offset=${(k * 104729) % count}`),
    'all counts': (k) => page(`limit=0&facets=1&family=${pick(families, k)}&q=${pick(tones, k)}`),
    map: (k) => page(`limit=0&map=1&family=${pick(families, k)}`),
    'more like this': (k) => page(`near=like:${1 + ((k * 7919) % count)}:1-0-0&sort=likeness&dir=desc`),
    'the Library page': (k) => `/_.data?in=${room}&q=${pick(tones, k)}`,
    'the Packs page': () => '/packs.data?in=none',
    'Needs an ear': () => '/packs/ear.data?in=none',
    'the People page': () => '/people.data?in=none',
    'the Collections page': () => '/collections.data?in=none',
    'a keystroke: page and counts': (k) => page(`facets=1&q=${pick(tones, k)}&family=${pick(families, k * 3)}`),
  };
};

async function measure(get, address, people) {
  const times = [],
    until = performance.now() + seconds * 1000,
    one = async (from) => {
      for (let k = from; performance.now() < until; k += people) {
        const began = performance.now(),
          response = await get(address(k));
        await response.arrayBuffer();
        // What is answered quickly because there is nothing would be a fine figure.
        if (!response.ok) throw new Error(`${address(k)} was answered ${response.status}`);
        times.push(performance.now() - began);
      }
    };
  await Promise.all(Array.from({ length: people }, (_, k) => one(k)));
  return { p50: quantile(times, 0.5), p95: quantile(times, 0.95), count: times.length };
}

/** From a key to the list that is painted for it, in milliseconds. */
async function keyToPaint(address, room) {
  const browser = await openBrowser(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } }),
    times = [];
  await page.goto(`${address}/sign-in`);
  await page.getByLabel('Name').fill(person[0]);
  await page.getByLabel('Password').fill(person[1]);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForSelector('html[data-ready=yes]');
  await page.goto(`${address}/?in=${room}`);
  await page.waitForSelector('html[data-ready=yes]');
  for (const word of ['shaker', 'rhodes', 'tight', 'kick']) {
    await page.locator('[data-query]').fill('');
    await page.waitForTimeout(600);
    await page.locator('[data-query]').focus();
    for (const letter of word) {
      times.push(
        await page.evaluate(
          (key) =>
            new Promise((done) => {
              const output = document.querySelector('[role=search] output'),
                grid = document.querySelector('[data-loop-list]'),
                began = performance.now(),
                painted = () => requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)));
              const watch = new MutationObserver(() => {
                watch.disconnect();
                painted();
              });
              watch.observe(output, { subtree: true, characterData: true, childList: true });
              if (grid) watch.observe(grid, { subtree: true, characterData: true, childList: true });
              setTimeout(() => (watch.disconnect(), done(null)), 3000);
              const field = document.querySelector('[data-query]');
              Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, field.value + key);
              field.dispatchEvent(new Event('input', { bubbles: true }));
            }),
          letter,
        ),
      );
      await page.waitForTimeout(250);
    }
  }
  await browser.close();
  return times.filter((each) => each !== null);
}

async function bench(count) {
  const place = join(dataDir, `bench-search-${count}`),
    start = () =>
      startApplication({ port, dataDir: place, outsideUrl: undefined, demo: false, quiet: true, env: { GARNETFINCH_LOG: 'warn' } });
  removeCluster(place);
  rmSync(place, { recursive: true, force: true });
  let app = await start();
  runTypeScript('scripts/add-person.ts', person, { DATABASE_URL: app.databaseUrl, GARNETFINCH_DATA: place });
  say(`\n${count.toLocaleString('en')} loops: being made …`);
  runTypeScript('scripts/fill-library.ts', [String(count), '1'], { DATABASE_URL: app.databaseUrl });
  await app.stop();
  const began = performance.now();
  app = await start();
  try {
    const get = await signIn(app.address, ...person),
      made = await (
        await get('/api/v1/projects', { method: 'POST', body: new URLSearchParams({ intent: 'from-loop', loopId: '3' }) })
      ).json(),
      room = made.id;
    for (;;) {
      const { readingLoops } = await (await get('/api/v1/loops?limit=1&in=none')).json();
      if (readingLoops === null) break;
      await new Promise((next) => setTimeout(next, 200));
    }
    const status = readFileSync(`/proc/${app.children[0].pid}/status`, 'utf8');
    say(
      `  read into memory within ${((performance.now() - began) / 1000).toFixed(1)} s of the start; the web process holds ${Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)[1]) / 1024)} MB`,
    );
    const kinds = kindsOf(count, room);
    for (const address of Object.values(kinds)) for (let k = 0; k < 3; k++) await (await get(address(k))).arrayBuffer();
    for (const people of clients) {
      say(`  ${people} at once${' '.repeat(22)}p50 ms   p95 ms   × look-up (p95)   n`);
      let reference = null;
      for (const [name, address] of Object.entries(kinds)) {
        const { p50, p95, count: n } = await measure(get, address, people);
        reference ??= p95;
        say(
          `    ${name.padEnd(30)} ${p50.toFixed(1).padStart(7)} ${p95.toFixed(1).padStart(8)} ${(p95 / reference).toFixed(1).padStart(12)} ${String(n).padStart(10)}`,
        );
      }
    }
    if (values.browser) {
      const times = await keyToPaint(app.address, room);
      say(
        `  Chromium, key to painted list: p50 ${quantile(times, 0.5).toFixed(0)} ms, p95 ${quantile(times, 0.95).toFixed(0)} ms (${times.length} keys)`,
      );
    }
  } finally {
    await app.stop();
    removeCluster(place);
    rmSync(place, { recursive: true, force: true });
  }
}

await main(async () => {
  ensurePackages();
  await buildPoolWorkers();
  for (const size of sizes) await bench(size);
});
