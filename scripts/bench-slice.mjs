// npm run bench:slice: what the first slice costs, next to a reference in the same run. Needs nothing installed but what the tests need; ffmpeg where it is.
import { createReadStream, existsSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { request } from 'node:http';
import { cpus, loadavg } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { startApplication } from './lib/application.mjs';
import { openBrowser } from './lib/browser.mjs';
import { buildPoolWorkers, ensureBuild } from './lib/build.mjs';
import { quantile } from './lib/figures.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/packages.mjs';
import { at, dataDir, say } from './lib/paths.mjs';
import { removeCluster } from './lib/postgres.mjs';
import { run, tryRun } from './lib/run.mjs';

const benchData = join(dataDir, 'bench'),
  port = 3127,
  rows = [];
const note = (what, figure, reference = '') => {
  rows.push([what, figure, reference]);
  say(`  ${what}: ${figure}${reference ? `  (${reference})` : ''}`);
};
const seconds = async (work) => {
  const began = performance.now(),
    result = await work();
  return [(performance.now() - began) / 1000, result];
};
const ms = (list) => `p50 ${quantile(list, 0.5).toFixed(1)} ms, p95 ${quantile(list, 0.95).toFixed(1)} ms`;
const memoryMb = (pid, field) => {
  try {
    return Math.round(Number(new RegExp(`${field}:\\s+(\\d+)`).exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024);
  } catch {
    return NaN;
  }
};

/** Signs in as the first demo account and gives a fetch that stays signed in. */
async function signedIn(address) {
  const [account] = JSON.parse(readFileSync(at('server/services/demo-accounts.json'), 'utf8'));
  const response = await fetch(`${address}/sign-in`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams({ name: account.name, password: account.password }),
  });
  const cookie = response.headers.get('set-cookie').split(';')[0];
  const once = (path, options) => fetch(address + path, { ...options, headers: { ...options.headers, Cookie: cookie } });
  // A connection that idled while a child process held this one up may be closed by now: asked again, once, on a new one.
  const get = (path, options = {}) => once(path, options).catch(() => once(path, options));
  return Object.assign(get, { cookie, address });
}

async function importPack(get, files) {
  const { batchId } = await (
    await get('/api/v1/imports', { method: 'POST', body: new URLSearchParams({ intent: 'open', packName: 'Bench' }) })
  ).json();
  for (const [path, body] of files) await put(get, `/api/v1/imports/${batchId}/files?path=${encodeURIComponent(path)}`, body);
  await get('/api/v1/imports', { method: 'POST', body: new URLSearchParams({ intent: 'start', batchId: String(batchId) }) });
  for (;;) {
    const batch = (await (await get('/api/v1/imports')).json()).batches.find((each) => each.id === batchId);
    if (batch?.state === 'done') return batch;
    await new Promise((next) => setTimeout(next, 100));
  }
}

async function timeRequests(get, paths) {
  const times = [];
  for (const path of paths) {
    const began = performance.now();
    const response = await get(path),
      body = await response.text();
    if (!response.ok || (path.startsWith('/_') && !body.includes('facets')))
      throw new Error(`${path} answered ${response.status}: ${body.slice(0, 80)}`);
    times.push(performance.now() - began);
  }
  return times;
}

/** 20,000 loops by copying those there are, each with a path of its own. */
/** Sends a stream on a connection of its own: one kept from before may be closing, and a body that streams cannot be sent twice. */
function put(get, path, body) {
  return new Promise((done, failed) => {
    const sent = request(new URL(path, get.address), { method: 'PUT', agent: false, headers: { cookie: get.cookie } }, (answer) => {
      answer
        .resume()
        .once('end', () => (answer.statusCode < 300 ? done() : failed(new Error(`the upload was answered with ${answer.statusCode}`))));
    });
    sent.once('error', failed);
    body.pipe(sent);
  });
}

const zeros = (megabytes) =>
  Readable.from(
    (function* () {
      const block = Buffer.alloc(2 ** 20, 7);
      for (let n = 0; n < megabytes; n++) yield block;
    })(),
  );

async function growTo(databaseUrl, wanted) {
  const { Client } = await import('pg').then((module) => module.default),
    client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const columns =
    'set_id, media, title, file_name, file_format, sound_sha256, sound_frames, length_seconds, lead_seconds, kind, tempo_bpm, beats, bars, meter, key_tonic, key_mode, pitched, instrument, family, tempo_confidence, key_confidence, loudness_lufs, peak_dbfs, tuning_cents, overview, onset_frames, chroma, analyser_version, search_text, added_by';
  await client.query(
    `insert into loops (pack_id, vendor_path, file_sha256, added_at, ${columns}) select pack_id, vendor_path || ' copy ' || n, file_sha256, added_at - n * interval '1 minute', ${columns} from (select l.*, row_number() over (order by n, l.id) as place, n from loops l, generate_series(1, 200) n) grown where place <= $1 - (select count(*) from loops)`,
    [wanted],
  );
  await client.query('analyze loops');
  const {
    rows: [{ count }],
  } = await client.query('select count(*)::int from loops');
  await client.end();
  return count;
}

/** Scrolls by 90 pixels a frame, and far away every 40 frames; the time of each frame in milliseconds. */
const scrollFrames = (page, selector) =>
  page.evaluate(async (selector) => {
    const list = document.querySelector(selector),
      times = [];
    await new Promise((next) => setTimeout(next, 500));
    let last = performance.now(),
      top = 0;
    for (let step = 0; step < 240; step++) {
      // Written only: reading it back would force a layout of its own, which no wheel does.
      top += step % 40 === 39 ? 60_000 : 90;
      list.scrollTop = top;
      await new Promise(requestAnimationFrame);
      const now = performance.now();
      times.push(now - last);
      last = now;
    }
    return times;
  }, selector);

async function measureBrowser(address) {
  const browser = await openBrowser(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/sign-in`);
  await page.getByRole('button', { name: 'Ines Marlowe' }).click();
  await page.waitForSelector('html[data-ready=yes]');
  const cold = await (await browser.newContext({ storageState: await page.context().storageState() })).newPage();
  let bytes = 0;
  const client = await cold.context().newCDPSession(cold);
  await client.send('Network.enable');
  client.on('Network.loadingFinished', (event) => {
    bytes += event.encodedDataLength;
  });
  const [loadSeconds] = await seconds(async () => {
    await cold.goto(address, { waitUntil: 'load' });
    await cold.waitForSelector('html[data-ready=yes]');
  });
  note(
    'first page, nothing cached, at 20,000 loops',
    `${Math.round(bytes / 1024)} kB on the wire, usable after ${(loadSeconds * 1000).toFixed(0)} ms`,
  );
  // Click to sound, on the audio clock: from the click to the first frame that is not silent.
  await page.evaluate(() => window.garnetfinch.engine.open());
  const waits = [];
  for (let index = 0; index < 12; index++) {
    waits.push(
      await page.evaluate(async (place) => {
        const { engine } = window.garnetfinch,
          row = document.querySelectorAll('[role=row][id^=loop-]')[place % 8];
        engine.audition.stop();
        await new Promise((next) => setTimeout(next, 500));
        engine.takePeaks();
        const began = performance.now();
        row.click();
        for (;;) {
          await new Promise((next) => {
            const channel = new MessageChannel();
            channel.port1.onmessage = next;
            channel.port2.postMessage(0);
          });
          const [left, right] = engine.takePeaks();
          if (left > 1e-4 || right > 1e-4) return performance.now() - began;
          if (performance.now() - began > 8000) return 8000;
        }
      }, index),
    );
  }
  note('click to sound, alone: first hearing of 8 loops, then again', ms(waits.slice(0, 8)), `again: ${ms(waits.slice(8))}`);
  const frames = await scrollFrames(page, '[data-loop-list]');
  // What this browser can do at the best: plain rows of text that are all there already, scrolled by the same steps.
  await page.setContent(
    `<div id="plain" style="height:520px;overflow-y:scroll">${Array.from(
      { length: 3000 },
      (_, row) =>
        `<div style="display:flex;height:42px;font:14px sans-serif">${Array.from({ length: 8 }, (_, cell) => `<span style="width:140px">plain ${row} ${cell}</span>`).join('')}</div>`,
    ).join('')}</div>`,
  );
  const plain = await scrollFrames(page, '#plain');
  const late = (times) => `${times.filter((time) => time > 50).length} of ${times.length} frames over 50 ms`;
  note('scrolling 20,000 rows, 90 pixels a frame', `${ms(frames)}; ${late(frames)}`, `plain rows of text: ${ms(plain)}; ${late(plain)}`);
  await browser.close();
}

await main(async () => {
  checkNode();
  ensurePackages();
  ensureChromium();
  await ensureBuild();
  await buildPoolWorkers();
  // `--again` measures on the data folder that `--keep` left, and leaves the first start out.
  const again = process.argv.includes('--again') && existsSync(benchData);
  if (!again) {
    removeCluster(benchData);
    rmSync(benchData, { recursive: true, force: true });
  }
  say(
    `${cpus().length} cores, load ${loadavg()
      .map((each) => each.toFixed(1))
      .join(' ')}. Shared machines are noisy: read the ratios.\n`,
  );
  const options = { port, dataDir: benchData, outsideUrl: undefined, quiet: true };
  if (!again) {
    const [bareSeconds, bare] = await seconds(() => startApplication({ ...options, dataDir: join(benchData, 'bare'), demo: false }));
    await bare.stop();
    note('start on an empty data folder, no demo', `${bareSeconds.toFixed(1)} s`, 'cluster, migrations, serving');
    const [coldSeconds, first] = await seconds(() => startApplication(options));
    await first.stop();
    note('first start with the demo made', `${coldSeconds.toFixed(0)} s`, 'packages and build were there');
  }
  const [warmSeconds, application] = await seconds(() => startApplication(options));
  note('warm start', `${warmSeconds.toFixed(1)} s`);
  try {
    const get = await signedIn(application.address),
      [web, jobs] = application.children.map((child) => child.pid),
      pack = join(benchData, 'pack');
    run(process.execPath, ['--import', 'tsx', at('scripts/bench-pack.ts'), pack, '300']);
    const wavs = readdirSync(pack).filter((name) => name.endsWith('.wav'));
    const [importSeconds, batch] = await seconds(() => importPack(get, [['pack.zip', createReadStream(join(pack, 'pack.zip'))]]));
    let reference = 'ffmpeg is not here: no reference';
    if (tryRun('ffmpeg', ['-version']).status === 0) {
      const [ffmpegSeconds] = await seconds(async () => {
        for (const name of wavs) tryRun('ffmpeg', ['-v', 'error', '-threads', '1', '-i', join(pack, name), '-f', 'null', '-']);
      });
      reference = `ffmpeg merely decoding the same files, one after the other: ${ffmpegSeconds.toFixed(1)} s; ratio ${(importSeconds / ffmpegSeconds).toFixed(2)}`;
    }
    note(
      `import of a 300-file pack (${Math.round(statSync(join(pack, 'pack.zip')).size / 2 ** 20)} MB zip), analysed`,
      `${importSeconds.toFixed(1)} s, ${(300 / importSeconds).toFixed(1)} files/s, ${batch.loops} loops`,
      reference,
    );
    const before = memoryMb(web, 'VmRSS');
    let peak = before;
    const watch = setInterval(() => {
      peak = Math.max(peak, memoryMb(web, 'VmRSS'));
    }, 20);
    const { batchId } = await (
      await get('/api/v1/imports', { method: 'POST', body: new URLSearchParams({ intent: 'open', packName: 'Big' }) })
    ).json();
    const [uploadSeconds] = await seconds(() => put(get, `/api/v1/imports/${batchId}/files?path=big.wav`, zeros(500)));
    clearInterval(watch);
    await get('/api/v1/imports', { method: 'POST', body: new URLSearchParams({ intent: 'drop', batchId: String(batchId) }) });
    note('upload of 500 MB: memory of the web process', `${before} → ${peak} MB at the most`, `${(500 / uploadSeconds).toFixed(0)} MB/s`);
    const total = await growTo(application.databaseUrl, 20_000),
      words = ['shaker', 'bass f', 'nylon guitar', 'kit', 'piano minor', 'harbour', 'pad', 'xyzzy', 'conga 96', 'brass st'];
    await timeRequests(get, ['/api/v1/loops?q=warm', '/_.data?q=warm&_routes=routes%2Flibrary%2Froute']);
    const idTimes = await timeRequests(
      get,
      Array.from({ length: 40 }, (_, n) => `/api/v1/loops?id=${n + 1}`),
    );
    const rowTimes = await timeRequests(
      get,
      Array.from({ length: 40 }, (_, n) => `/api/v1/loops?q=${words[n % words.length]}`),
    );
    const allTimes = await timeRequests(
      get,
      Array.from({ length: 40 }, (_, n) => `/_.data?q=${words[n % words.length]}&_routes=routes%2Flibrary%2Froute`),
    );
    const wideTimes = await timeRequests(
      get,
      Array.from({ length: 20 }, (_, n) => `/_.data?sort=${['added', 'fit', 'tempo', 'title'][n % 4]}&_routes=routes%2Flibrary%2Froute`),
    );
    const ratio = (times) => `${(quantile(times, 0.5) / quantile(idTimes, 0.5)).toFixed(1)} × a look-up by id`;
    note(`reference: one loop by its id, over HTTP, at ${total} loops`, ms(idTimes));
    note('search, rows only', ms(rowTimes), ratio(rowTimes));
    note('search: rows, total and all charts', ms(allTimes), ratio(allTimes));
    note('no search at all: rows, total and all charts, four orders', ms(wideTimes), ratio(wideTimes));
    await measureBrowser(application.address);
    note(
      'memory peaks since the start: web, jobs',
      `${memoryMb(web, 'VmHWM')} MB, ${memoryMb(jobs, 'VmHWM')} MB`,
      'jobs: with two analysing threads',
    );
  } finally {
    await application.stop();
  }
  const wide = Math.max(...rows.map(([what]) => what.length));
  say(
    `\n${rows.map(([what, figure, reference]) => `${what.padEnd(wide)} | ${figure}${reference ? ` | ${reference}` : ''}`).join('\n')}\n\nload at the end ${loadavg()[0].toFixed(1)}`,
  );
  if (!process.argv.includes('--keep')) {
    removeCluster(benchData);
    rmSync(benchData, { recursive: true, force: true });
  }
  process.exit(0);
});
