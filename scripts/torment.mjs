// npm run torment -- [--rounds N] [--seed N]: kills the web process, the job process or the database (kill -9) at random moments of an import, uploads
// among them, and looks what is left: each file in exactly once or with its error row, nothing stored that nothing refers to, no import that waits.
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { startApplication, runTypeScript } from './lib/application.mjs';
import { sendImport, signIn, waitForImport } from './lib/import-session.mjs';
import { main } from './lib/main.mjs';
import { dataDir, say, Stop } from './lib/paths.mjs';
import { removeCluster } from './lib/postgres.mjs';

const { values } = parseArgs({ options: { rounds: { type: 'string', default: '20' }, seed: { type: 'string', default: '1' } } }),
  rounds = Number(values.rounds),
  data = join(dataDir, 'torment'),
  port = 3137,
  filesARound = 12;

let state = Number(values.seed) >>> 0;
/** A number from 0 to 1; the same seed gives the same (mulberry32). */
function random() {
  state = (state + 0x6d2b79f5) >>> 0;
  let t = Math.imul(state ^ (state >>> 15), state | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
}

/** Clicks on the beat, of another tempo each time: no two files are of the same bytes. */
function soundOf(round, k) {
  const rate = 44100,
    tempo = 80 + round * 1.5 + k * 0.07,
    frames = Math.round((rate * 60 * 8) / tempo),
    bytes = Buffer.alloc(44 + frames * 2);
  bytes.write('RIFF');
  bytes.writeUInt32LE(36 + frames * 2, 4);
  bytes.write('WAVEfmt ', 8);
  [16, 1 | (1 << 16), rate, rate * 2, 2 | (16 << 16)].forEach((value, n) => bytes.writeUInt32LE(value, 16 + n * 4));
  bytes.write('data', 36);
  bytes.writeUInt32LE(frames * 2, 40);
  for (let beat = 0; beat < 8; beat++)
    for (let i = 0; i < 2000; i++) {
      const frame = Math.round((rate * 60 * beat) / tempo) + i;
      if (frame < frames) bytes.writeInt16LE(Math.round(20_000 * Math.exp(-i / 300) * Math.sin(i / 3)), 44 + frame * 2);
    }
  return bytes;
}

await main(async () => {
  await removeCluster(join(data, 'pg'));
  rmSync(data, { recursive: true, force: true });
  const app = await startApplication({ port, dataDir: data, demo: false, quiet: true });
  const wrong = [];
  try {
    const person = ['Ada Quill', 'a password of ten'];
    runTypeScript('scripts/add-person.ts', person, { DATABASE_URL: app.databaseUrl, GARNETFINCH_DATA: data });
    const get = await signIn(app.address, ...person),
      victims = {
        web: () => app.children[0].kill('SIGKILL'),
        jobs: () => app.children[1].kill('SIGKILL'),
        database: () => process.kill(Number(readFileSync(join(data, 'pg/postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL'),
      },
      names = Object.keys(victims);
    for (let round = 0; round < rounds; round++) {
      const files = Array.from({ length: filesARound }, (_, k) => [`round ${round}/beat ${k}.wav`, soundOf(round, k)]);
      files.push([`round ${round}/broken.wav`, Buffer.from(`RIFF no sound ${round}`)]);
      const victim = names[Math.floor(random() * names.length)],
        afterMs = Math.round(random() * 4000);
      const killing = wait(afterMs).then(() => victims[victim]());
      const batchId = await sendImport(get, `Round ${round}`, files, { pieceBytes: 65_536 });
      await killing;
      const batch = await waitForImport(get, batchId, { timeoutMs: 240_000 }),
        ended = batch.files.filter(({ state: each }) => each === 'done').length,
        failed = batch.files.filter(({ state: each }) => each === 'failed').map(({ path }) => path);
      if (batch.state !== 'done' || ended !== filesARound || failed.length !== 1 || batch.files.length !== files.length)
        wrong.push(
          `round ${round} (${victim} after ${afterMs} ms): ${batch.state}, ${ended} in, ${failed.length} failed, ${batch.files.length} rows`,
        );
      say(`  round ${round + 1}: ${victim} killed after ${afterMs} ms; ${ended} in, ${failed.length} with its error`);
    }
    const all = await (await get('/api/v1/loops/ids?offset=0&limit=100000')).json(),
      loops = all.ids?.length ?? NaN;
    if (loops !== rounds * filesARound) wrong.push(`${loops} loops are in the library, ${rounds * filesARound} were sent`);
    try {
      runTypeScript('scripts/check-store.ts', ['--contents'], { DATABASE_URL: app.databaseUrl, GARNETFINCH_DATA: data });
    } catch {
      wrong.push('the store and the database do not agree');
    }
  } finally {
    await app.stop();
  }
  if (wrong.length > 0) throw new Stop(`${wrong.length} went wrong:\n${wrong.join('\n')}`);
  say(`\n${rounds} rounds, ${rounds * filesARound} files: each is in exactly once, each broken one has its row.`);
});
