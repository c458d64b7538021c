import { parentPort, workerData } from 'node:worker_threads';
import { Client } from 'pg';
import { Finder } from '~core/search/index/finder';
import { setOwnInstruments } from '~core/theory/instruments';
import { LibraryFeed } from './library-feed';
import type { FromFinder, ToFinder } from './protocol';

/** The thread of the index: reads the library, keeps up with it, answers. What it cannot do ends it; the process opens another. */
const port = parentPort;
if (!port) throw new Error('runs as a thread only');
const say = (message: FromFinder): void => port.postMessage(message);
/** So much of the index may be dead before it is read anew. */
const mostDead = 0.3,
  leastDead = 20_000;

const client = new Client({ connectionString: (workerData as { databaseUrl: string }).databaseUrl });
client.on('error', (error) => {
  throw error;
});
await client.connect();
const feed = new LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) });
const startedMs = performance.now();
let finder: Finder | null = null;

port.on('message', (message: ToFinder) => {
  if (message.kind === 'instruments') return setOwnInstruments(message.own);
  const { turn, question } = message;
  feed.catchUp().then(
    () => {
      if (finder?.index !== feed.index) finder = new Finder(feed.index);
      try {
        say({ kind: 'answer', turn, answer: finder.ask(question) });
      } catch (error) {
        say({ kind: 'failed', turn, message: (error as Error).stack ?? String(error) });
      }
    },
    // Without the database nothing is known to be right any more.
    (error: Error) => {
      throw error;
    },
  );
});

await feed.load((loops) => say({ kind: 'reading', loops }));
say({ kind: 'ready', loops: feed.index.count, ms: performance.now() - startedMs, bytes: process.memoryUsage().arrayBuffers });

let isReadAnew = false;
setInterval(() => {
  void feed.catchUp().then(async () => {
    // Beside the questions, which go on with the old one meanwhile.
    if (isReadAnew || feed.index.deadShare <= mostDead || feed.index.length <= leastDead) return;
    isReadAnew = true;
    await feed.load();
    isReadAnew = false;
  });
}, 1000);
setInterval(() => void feed.forget(), 600_000);
