import { Client } from 'pg';
import { readLiveEvent, writeLiveEvent, type LiveEvent } from '~contracts/live-event';
import { config } from '../config.server';
import { sequelize } from '../db/connection';

const channel = 'garnetfinch';
type Listener = (event: LiveEvent) => void;
const holder = globalThis as { garnetfinchListeners?: Set<Listener>; garnetfinchListening?: boolean; garnetfinchClient?: Client };
const listeners = (holder.garnetfinchListeners ??= new Set());

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

/** Hears what any process announces. @returns what ends it */
export function hearAnnouncements(listener: Listener): () => void {
  if (!holder.garnetfinchListening) {
    holder.garnetfinchListening = true;
    void listen();
  }
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Ends the connection that hears, with the process that had it. */
export async function stopHearing(): Promise<void> {
  holder.garnetfinchListening = false;
  listeners.clear();
  await holder.garnetfinchClient?.end().catch(() => {});
}

/** One connection a process listens; when it breaks, another is made. */
async function listen(): Promise<void> {
  const client = (holder.garnetfinchClient = new Client({ connectionString: config.databaseUrl })),
    again = () => {
      client.removeAllListeners();
      client.on('error', () => {});
      void client.end().catch(() => {});
      if (holder.garnetfinchListening) setTimeout(() => void listen().catch(() => {}), 1000);
    };
  client.on('error', again);
  client.on('end', again);
  client.on('notification', ({ payload }) => {
    const event = readLiveEvent(payload ?? '');
    if (event) for (const listener of [...listeners]) listener(event);
  });
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
  } catch {
    again();
  }
}
