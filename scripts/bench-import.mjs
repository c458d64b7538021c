// npm run bench:import -- [--files N] [--listeners N] [--threads 1,2]: what an import costs with one and two threads, next to ffmpeg decoding the same
// files in the same run, and what people who listen meanwhile notice of it.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { startApplication, runTypeScript } from './lib/application.mjs';
import { buildPoolWorkers } from './lib/build.mjs';
import { signIn, waitForImport } from './lib/import-session.mjs';
import { main } from './lib/main.mjs';
import { ensurePackages } from './lib/packages.mjs';
import { at, dataDir, say } from './lib/paths.mjs';
import { removeCluster } from './lib/postgres.mjs';
import { run, tryRun } from './lib/run.mjs';

const { values } = parseArgs({
    options: {
      files: { type: 'string', default: '300' },
      listeners: { type: 'string', default: '10' },
      threads: { type: 'string', default: '1,2' },
    },
  }),
  wanted = Number(values.files),
  listeners = Number(values.listeners),
  data = join(dataDir, 'bench-import'),
  sounds = join(data, 'sounds'),
  port = 3147,
  ticksPerSecond = 100;

/** CPU seconds of a process with all its threads, and of children that have ended. */
function cpuSeconds(pid) {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return fields.slice(11, 15).reduce((sum, ticks) => sum + Number(ticks), 0) / ticksPerSecond;
}
const memoryMb = (pid) => Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024);
const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? NaN;

/** So many sound files of the demo's, each with a comment of its own, so that no two are of the same bytes. */
function makeSounds() {
  mkdirSync(sounds, { recursive: true });
  const zips = join(data, 'zips');
  run(process.execPath, ['--import', 'tsx', at('demo/write-zips.ts'), zips], { quiet: true });
  for (const zip of readdirSync(zips)) tryRun('unzip', ['-o', '-q', join(zips, zip), '-d', join(data, 'unzipped')]);
  const found = readdirSync(join(data, 'unzipped'), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.wav$/i.test(entry.name))
    .map((entry) => readFileSync(join(entry.parentPath, entry.name)))
    .filter((bytes) => bytes.length > 44 && bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.readUInt32LE(4) + 8 === bytes.length);
  for (let k = 0; k < wanted; k++) {
    const bytes = found[k % found.length],
      comment = Buffer.from(`ICMT${'\0'.repeat(4)}${String(k).padStart(8, '0')}`),
      list = Buffer.alloc(8);
    comment.writeUInt32LE(8, 4);
    list.write('LIST');
    list.writeUInt32LE(4 + comment.length, 4);
    const out = Buffer.concat([bytes, list, Buffer.from('INFO'), comment]);
    out.writeUInt32LE(out.length - 8, 4);
    writeFileSync(join(sounds, `Sound ${String(k).padStart(5, '0')}.wav`), out);
  }
}

/** CPU and wall seconds that ffmpeg takes to decode the same files, one process a file, as a library's import would call it. */
function decodeWithFfmpeg() {
  const began = performance.now(),
    script = `for f in "$1"/*.wav; do ffmpeg -v error -i "$f" -f null - </dev/null; done; times`,
    { stdout } = spawnSync('bash', ['-c', script, 'bash', sounds], { encoding: 'utf8', maxBuffer: 2 ** 26 }),
    [user, system] = stdout.trim().split('\n').at(-1).split(' '),
    inSeconds = (text) => Number(/(\d+)m/.exec(text)[1]) * 60 + Number(/m([\d.]+)s/.exec(text)[1]);
  return { cpu: inSeconds(user) + inSeconds(system), wall: (performance.now() - began) / 1000 };
}

/** Imports all of it in an application of its own. */
async function importWith(threads) {
  const place = join(data, `threads-${threads}`);
  await removeCluster(join(place, 'pg'));
  rmSync(place, { recursive: true, force: true });
  const app = await startApplication({
    port,
    dataDir: place,
    demo: false,
    quiet: true,
    env: { GARNETFINCH_THREADS: String(threads), GARNETFINCH_FOLDERS: data },
  });
  try {
    const person = ['Ada Quill', 'a password of ten'];
    runTypeScript('scripts/add-person.ts', person, { DATABASE_URL: app.databaseUrl, GARNETFINCH_DATA: place });
    const get = await signIn(app.address, ...person),
      [web, jobs] = app.children;
    // A dozen are there before, for the listeners.
    const small = join(data, 'few');
    mkdirSync(small, { recursive: true });
    for (let k = 0; k < 12; k++)
      writeFileSync(
        join(small, `Few ${k}.wav`),
        withComment(readFileSync(join(sounds, `Sound ${String(k).padStart(5, '0')}.wav`)), 9_000_000 + k),
      );
    await allow(get, small);
    const rows = (await (await get('/api/v1/loops?offset=0')).json()).rows,
      addresses = rows.map(({ source }) => `/media/sound/${source.soundSha}`),
      // As many people as listen during the import: what they are to each other is not what the import is to them.
      before = await listen(get, addresses, listeners, () => false, 40 * listeners),
      cpuBefore = cpuSeconds(jobs.pid),
      memoryBefore = memoryMb(web.pid);
    let memoryMost = memoryBefore,
      firstHeard = null,
      ended = false;
    const began = performance.now(),
      heard = listen(get, addresses, listeners, () => ended);
    await allow(get, sounds, (batch) => {
      memoryMost = Math.max(memoryMost, memoryMb(web.pid));
      if (batch && batch.counts.done > 0) firstHeard ??= (performance.now() - began) / 1000;
    });
    const wall = (performance.now() - began) / 1000;
    ended = true;
    const during = await heard,
      [batch] = (await (await get('/api/v1/imports')).json()).batches;
    return {
      threads,
      wall,
      cpu: cpuSeconds(jobs.pid) - cpuBefore,
      seconds: batch.seconds,
      loops: batch.loops,
      firstHeard,
      before,
      during,
      memoryBefore,
      memoryMost,
    };
  } finally {
    await app.stop();
  }
}

function withComment(bytes, number) {
  const out = Buffer.from(bytes);
  out.write(String(number).padStart(8, '0'), out.length - 8);
  return out;
}

/** Lets a folder of the server come in and waits for it: no time is taken by sending. */
async function allow(get, path, onLook = () => {}) {
  // What was written just now would be left for the next look.
  const hourAgo = Date.now() / 1000 - 3600;
  for (const name of readdirSync(path)) utimesSync(join(path, name), hourAgo, hourAgo);
  await get('/api/v1/folders', { method: 'POST', body: new URLSearchParams({ path, packName: path.split('/').at(-1) }) });
  for (;;) {
    const { batches } = await (await get('/api/v1/imports')).json(),
      name = path.split('/').at(-1),
      batch = batches.find(({ packName }) => packName === name);
    if (batch) return waitForImport(get, batch.id, { timeoutMs: 3_600_000, onLook });
    await wait(100);
  }
}

/** People who go from loop to loop: how long each waits for the sound. */
async function listen(get, addresses, people, isOver, most = Infinity) {
  const times = [],
    one = async (from) => {
      for (let k = from; times.length < most && !isOver(); k++) {
        const began = performance.now(),
          response = await get(addresses[k % addresses.length], { headers: { Range: 'bytes=0-262143' } });
        await response.arrayBuffer();
        times.push(performance.now() - began);
        await wait(150);
      }
    };
  await Promise.all(Array.from({ length: people }, (_, k) => one(k)));
  return times;
}

await main(async () => {
  ensurePackages();
  await buildPoolWorkers();
  rmSync(data, { recursive: true, force: true });
  say(`Making ${wanted} files …`);
  makeSounds();
  const results = [];
  for (const threads of values.threads.split(',').map(Number)) {
    say(`Importing with ${threads} ${threads === 1 ? 'thread' : 'threads'} …`);
    results.push(await importWith(threads));
  }
  const reference = existsSync('/usr/bin/ffmpeg') ? decodeWithFfmpeg() : null;
  say('');
  for (const { threads, wall, cpu, seconds, loops, firstHeard, before, during, memoryBefore, memoryMost } of results) {
    say(
      `${threads} ${threads === 1 ? 'thread' : 'threads'}: ${loops} loops, ${(loops / wall).toFixed(1)} files/s, ${(seconds / cpu).toFixed(1)} s of sound per CPU second`,
    );
    say(
      `  wall ${wall.toFixed(1)} s, CPU of the job process ${cpu.toFixed(1)} s${reference ? `, ${(cpu / reference.cpu).toFixed(2)} × ffmpeg’s for decoding alone` : ''}`,
    );
    say(`  copying into the store and the first file heard: ${firstHeard?.toFixed(1)} s`);
    say(
      `  ${listeners} listeners: p95 ${quantile(during, 0.95).toFixed(0)} ms (they alone before: ${quantile(before, 0.95).toFixed(0)} ms), ${during.length} sounds; memory of the web process ${memoryBefore} → ${memoryMost} MB`,
    );
  }
  if (reference) say(`ffmpeg, one process a file: CPU ${reference.cpu.toFixed(1)} s, wall ${reference.wall.toFixed(1)} s`);
});
