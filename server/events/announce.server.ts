import { Client } from 'pg';
import { readLiveEvent, writeLiveEvent, type LiveEvent } from '~contracts/live-event';
import { config } from '../config.server';
import { sequelize } from '../db/connection';
import { RecentEvents, type MarkedEvent } from './recent-events';

const channel = 'garnetfinch';
interface Hearer {
  readonly hear: (event: LiveEvent, mark: string) => void;
  readonly missed: () => void;
}
const holder = globalThis as {
  garnetfinchHearers?: Set<Hearer>;
  garnetfinchRecent?: RecentEvents;
  garnetfinchListening?: boolean;
  garnetfinchClient?: Client;
};
const hearers = (holder.garnetfinchHearers ??= new Set()),
  recent = (holder.garnetfinchRecent ??= new RecentEvents());

/** The mark of this moment: what is announced behind it is in `announcedSince` of it. To be taken before anything is read. */
export const liveMark = (): string => recent.mark();

/** What this process has heard since a mark; null where that is not known: the mark is of another process, of long ago, or from before a break. */
export const announcedSince = (mark: string): readonly MarkedEvent[] | null => recent.since(mark);

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
 * Hears what any process announces, each with the mark behind it.
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
    if (!event) return;
    const mark = recent.take(event);
    for (const { hear } of [...hearers]) hear(event, mark);
  });
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
    // From here on all is heard; of what was announced before nothing is known.
    recent.forget();
    if (isAgain) for (const { missed } of [...hearers]) missed();
  } catch {
    again();
  }
}
