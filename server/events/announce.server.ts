import { Client } from 'pg';
import { readLiveEvent, writeLiveEvent, type LiveEvent } from '~contracts/live-event';
import { config } from '../config.server';
import { sequelize } from '../db/connection';

const channel = 'garnetfinch';
interface Hearer {
  readonly hear: (event: LiveEvent) => void;
  readonly missed: () => void;
}
const holder = globalThis as { garnetfinchHearers?: Set<Hearer>; garnetfinchListening?: boolean; garnetfinchClient?: Client };
const hearers = (holder.garnetfinchHearers ??= new Set());

/** Tells every page of every process. */
export async function announce(event: LiveEvent): Promise<void> {
  await sequelize.query('select pg_notify($1, $2)', { bind: [channel, writeLiveEvent(event)] });
}

/** So many loops are named by one announcement; of more, lists are loaded anew: a message between processes holds 8,000 bytes at most. */
const mostNamed = 200;

/** Tells that facts of loops changed. */
export const announceLoops = (loopIds: readonly number[]): Promise<void> =>
  announce({ kind: 'library', loopIds: loopIds.length <= mostNamed ? loopIds : null });

/** Tells that there are other loops than before. */
export const announceLibrary = (): Promise<void> => announce({ kind: 'library', loopIds: null });

/**
 * Hears what any process announces.
 * @param missed told when the connection that hears stands again after a break: what was announced in it is told to nobody
 * @returns what ends it
 */
export function hearAnnouncements(hear: Hearer['hear'], missed: Hearer['missed']): () => void {
  if (!holder.garnetfinchListening) {
    holder.garnetfinchListening = true;
    void listen();
  }
  const hearer = { hear, missed };
  hearers.add(hearer);
  return () => void hearers.delete(hearer);
}

/** Ends the connection that hears, with the process that had it. */
export async function stopHearing(): Promise<void> {
  holder.garnetfinchListening = false;
  hearers.clear();
  await holder.garnetfinchClient?.end().catch(() => {});
}

/** One connection a process listens; when it breaks, another is made. */
async function listen(isAgain = false): Promise<void> {
  let isOver = false;
  const client = (holder.garnetfinchClient = new Client({ connectionString: config.databaseUrl })),
    again = () => {
      if (isOver) return;
      isOver = true;
      client.removeAllListeners();
      client.on('error', () => {});
      void client.end().catch(() => {});
      if (holder.garnetfinchListening) setTimeout(() => void listen(true).catch(() => {}), 1000);
    };
  client.on('error', again);
  client.on('end', again);
  client.on('notification', ({ payload }) => {
    const event = readLiveEvent(payload ?? '');
    if (event) for (const { hear } of [...hearers]) hear(event);
  });
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
    if (isAgain) for (const { missed } of [...hearers]) missed();
  } catch {
    again();
  }
}
