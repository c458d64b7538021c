import { useEffect, useRef } from 'react';
import { isMomentary, readLiveEvent, type LiveEvent, type LiveEventOf, type LiveKind } from '~contracts/live-event';

type Listener = (event: LiveEvent) => void;

/** `EventSource.CLOSED`, where there is none to ask. */
const closed = 2,
  firstWaitMs = 2000,
  mostWaitMs = 60_000;

/** The mark in the page: what came since is in the stream. */
const pageMark = (): string => document.querySelector<HTMLMetaElement>('meta[name="live-mark"]')?.content ?? '';

/**
 * The stream of what happens, one for all that a page shows: opened with the first who listens, closed with the last. It begins with what was announced
 * since the page was made, and after a break with what came in it.
 */
export class LiveClient {
  private readonly listeners = new Set<Listener>();
  private readonly openers = new Set<() => void>();
  private source: EventSource | null = null;
  private failed = 0;
  /** The mark behind what was heard last. */
  private since: string | null = null;
  private waiting: ReturnType<typeof setTimeout> | null = null;
  /** What came while the next page is on its way; null while none is. */
  private held: LiveEvent[] | null = null;

  constructor(
    private readonly open = (since: string): EventSource => new EventSource(`/events?since=${encodeURIComponent(since)}`),
    private readonly firstMark = pageMark,
  ) {}

  /** @returns what ends it */
  listen(listener: Listener): () => void {
    return this.keep(this.listeners, listener);
  }

  /** Told whenever the stream stands: at first, and again after each break. */
  whenOpen(opener: () => void): () => void {
    return this.keep(this.openers, opener);
  }

  /** Another page is on its way: what is announced from now on may be in what it has read, or not. */
  startTurn(): void {
    this.held ??= [];
  }

  /** It is drawn, and told what came on its way; so is who has heard it already, as an event names what changed and not how. */
  endTurn(): void {
    const held = this.held ?? [];
    this.held = null;
    for (const event of held) this.tell(event);
  }

  private tell(event: LiveEvent): void {
    for (const listener of [...this.listeners]) listener(event);
  }

  private keep<T>(set: Set<T>, one: T): () => void {
    set.add(one);
    if (this.waiting === null) this.source ??= this.connect();
    return () => {
      set.delete(one);
      if (this.listeners.size > 0 || this.openers.size > 0) return;
      if (this.waiting !== null) clearTimeout(this.waiting);
      this.waiting = null;
      this.source?.close();
      this.source = null;
      this.failed = 0;
    };
  }

  private connect(): EventSource {
    const source = this.open((this.since ??= this.firstMark()));
    source.onopen = () => {
      this.failed = 0;
      for (const opener of [...this.openers]) opener();
    };
    source.onmessage = ({ data, lastEventId }) => {
      this.since = lastEventId;
      const event = readLiveEvent(String(data));
      if (!event) return;
      if (!isMomentary(event)) this.held?.push(event);
      this.tell(event);
    };
    // A browser comes back by itself where a line is cut, and never where it was answered with an error, as while a server starts.
    source.onerror = () => {
      if (source.readyState !== closed || source !== this.source) return;
      this.source = null;
      this.waiting = setTimeout(
        () => {
          this.waiting = null;
          this.source = this.connect();
        },
        Math.min(mostWaitMs, firstWaitMs * 2 ** this.failed++),
      );
    };
    return source;
  }
}

/** The client of this page. */
export const live = new LiveClient();

/** Calls with every event of a kind. */
export function useLive<K extends LiveKind>(kind: K, call: (event: LiveEventOf<K>) => void): void {
  const latest = useRef(call);
  useEffect(() => {
    latest.current = call;
  });
  useEffect(() => live.listen((event) => event.kind === kind && latest.current(event as LiveEventOf<K>)), [kind]);
}
