import { Client } from 'pg';
import { config } from '../config.server';
import { sequelize } from '../db/connection';

/** What the pages are told of. The payload names what changed; the page asks for the rest. */
export interface LibraryEvent {
  readonly kind: 'import' | 'library' | 'project' | 'export' | 'remote' | 'signed-out';
  readonly id: number;
  readonly revision?: number;
  /** Between a person's remotes and rooms; `id` is the person's, and nobody else is told. */
  readonly command?: string;
  readonly room?: object;
  /** Those whose streams end; told to no page. */
  readonly sessions?: readonly string[];
}

const channel = 'garnetfinch';
type Listener = (event: LibraryEvent) => void;
const holder = globalThis as { garnetfinchListeners?: Set<Listener>; garnetfinchListening?: boolean };
const listeners = (holder.garnetfinchListeners ??= new Set());

/** Tells every page of every process. */
export async function announce(event: LibraryEvent): Promise<void> {
  await sequelize.query('select pg_notify($1, $2)', { bind: [channel, JSON.stringify(event)] });
}

async function listen(): Promise<void> {
  const client = new Client({ connectionString: config.databaseUrl });
  const again = () => {
    client.removeAllListeners();
    client.on('error', () => {});
    void client.end().catch(() => {});
    setTimeout(() => void listen().catch(() => {}), 1000);
  };
  client.on('error', again);
  client.on('end', again);
  client.on('notification', ({ payload }) => {
    if (payload) for (const listener of listeners) listener(JSON.parse(payload) as LibraryEvent);
  });
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
  } catch {
    again();
  }
}

/**
 * A server-sent event stream that ends with the request, or with the session.
 * @param session by which the session is known; `isOpen` says whether it still is one
 */
export function eventStream(signal: AbortSignal, personId: number, session: string, isOpen: () => Promise<boolean>): Response {
  if (!holder.garnetfinchListening) {
    holder.garnetfinchListening = true;
    void listen();
  }
  let stop = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const encoder = new TextEncoder();
      const write = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const listener: Listener = (event) => {
        if (event.kind === 'signed-out') {
          if (event.sessions?.includes(session)) stop();
        } else if (event.kind !== 'remote' || event.id === personId) write(`data: ${JSON.stringify(event)}\n\n`);
      };
      const beat = setInterval(() => {
        write(': still here\n\n');
        // One that has run out, or whose person has left, is not announced. A database that is away ends nothing.
        void isOpen().then(
          (open) => open || stop(),
          () => {},
        );
      }, 20_000);
      stop = () => {
        clearInterval(beat);
        listeners.delete(listener);
        try {
          controller.close();
        } catch {
          /* closed already */
        }
      };
      listeners.add(listener);
      write('retry: 2000\n\n');
      // The client may have gone before this line is reached.
      if (signal.aborted) stop();
      else signal.addEventListener('abort', () => stop(), { once: true });
    },
    cancel() {
      stop();
    },
  });
  // `no-transform` keeps the compression middleware from holding events back.
  return new Response(body, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform', 'X-Accel-Buffering': 'no' },
  });
}
