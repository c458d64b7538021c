import { useEffect, useRef } from 'react';
import { readLiveEvent, type LiveEvent, type LiveEventOf, type LiveKind } from '~contracts/live-event';

type Listener = (event: LiveEvent) => void;

/** `EventSource.CLOSED`, where there is none to ask. */
const closed = 2,
  firstWaitMs = 2000,
  mostWaitMs = 60_000;

/** The stream of what happens, one for all that a page shows: opened with the first who listens, closed with the last. */
export class LiveClient {
  private readonly listeners = new Set<Listener>();
  private readonly openers = new Set<(again: boolean) => void>();
  private source: EventSource | null = null;
  private opened = 0;
  private failed = 0;
  private waiting: ReturnType<typeof setTimeout> | null = null;

  constructor(private readonly open: () => EventSource = () => new EventSource('/events')) {}

  /** @returns what ends it */
  listen(listener: Listener): () => void {
    return this.keep(this.listeners, listener);
  }

  /** Told whenever the stream stands: at first, and `again` after a break, in which something may have been missed. */
  whenOpen(opener: (again: boolean) => void): () => void {
    return this.keep(this.openers, opener);
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
      this.opened = 0;
      this.failed = 0;
    };
  }

  private connect(): EventSource {
    const source = this.open();
    source.onopen = () => {
      const again = this.opened++ > 0;
      this.failed = 0;
      for (const opener of [...this.openers]) opener(again);
    };
    source.onmessage = ({ data }) => {
      const event = readLiveEvent(String(data));
      if (event) for (const listener of [...this.listeners]) listener(event);
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

/** Calls when the stream stands; see `LiveClient.whenOpen`. */
export function useLiveOpen(call: (again: boolean) => void): void {
  const latest = useRef(call);
  useEffect(() => {
    latest.current = call;
  });
  useEffect(() => live.whenOpen((again) => latest.current(again)), []);
}
