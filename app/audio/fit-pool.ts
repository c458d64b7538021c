import { fitKey, type FitRequest } from '~core/arrangement/fit-request';
import type { FitMessage, FitReply } from '~workers/protocol';
import { ownSound } from './own-sounds';
import { fitWorker } from './worker-url';

/** What is wanted sooner has the lower number. */
export const fitPriority = { soundsNext: 0, project: 1, neighbour: 2, shortlist: 3 } as const;

interface Waiting {
  readonly key: string;
  readonly request: FitRequest;
  priority: number;
  readonly done: (buffer: AudioBuffer) => void;
  readonly fail: (error: Error) => void;
  readonly promise: Promise<AudioBuffer>;
}

const cacheBytes = 384 * 2 ** 20;

/** Where a sound is fetched. */
const soundUrl = (request: FitRequest): string => `/media/sound/${request.soundSha}`;

const mostWorkers = 2;

/**
 * As many workers as leave a core to the page: with a worker on every core the page waits for one whenever rows are fitted ahead, and keys are
 * answered late, although the page itself has little to do.
 */
export const workersFor = (cores: number): number => Math.max(1, Math.min(mostWorkers, cores - 1));
/** Fits loops in workers, one or two at a time, the most urgent first; keeps the buffers made, least recently used out first. */
export class FitPool {
  private readonly idle: Worker[] = [];
  private readonly busy = new Map<Worker, Waiting>();
  private readonly queue: Waiting[] = [];
  private readonly cache = new Map<string, AudioBuffer>();
  private readonly loudness = new Map<string, number>();
  private usedBytes = 0;
  private readonly counts = { found: 0, made: 0, dropped: 0, unwanted: 0 };
  private nextId = 1;

  constructor(
    private readonly sampleRateHz: number,
    workerCount = workersFor(navigator.hardwareConcurrency),
  ) {
    for (let i = 0; i < workerCount; i++) this.idle.push(fitWorker());
  }

  /** The buffer if it is made already. */
  peek(request: FitRequest): AudioBuffer | null {
    const key = fitKey(request),
      found = this.cache.get(key);
    if (!found) return null;
    this.cache.delete(key);
    this.cache.set(key, found);
    return found;
  }

  /** The buffer, made if need be. Asking again for what waits makes it as urgent as the more urgent of both. */
  request(request: FitRequest, priority: number): Promise<AudioBuffer> {
    const ready = this.peek(request);
    if (ready) {
      this.counts.found++;
      return Promise.resolve(ready);
    }
    const key = fitKey(request);
    const known = this.queue.find((each) => each.key === key) ?? [...this.busy.values()].find((each) => each.key === key);
    if (known) {
      known.priority = Math.min(known.priority, priority);
      return known.promise;
    }
    let done!: Waiting['done'], fail!: Waiting['fail'];
    const promise = new Promise<AudioBuffer>((resolve, reject) => {
      done = resolve;
      fail = reject;
    });
    promise.catch(() => {}); // a dropped request is no error
    this.queue.push({ key, request, priority, done, fail, promise });
    this.work();
    return promise;
  }

  /** Drops what waits at this priority, except for `kept`: the list has moved on. */
  drop(priority: number, kept: ReadonlySet<string> = new Set()): void {
    for (let i = this.queue.length - 1; i >= 0; i--) {
      const waiting = this.queue[i];
      if (waiting.priority === priority && !kept.has(waiting.key)) {
        this.queue.splice(i, 1);
        this.counts.unwanted++;
        waiting.fail(new Error('no longer wanted'));
      }
    }
  }

  /** Loudness of fitted notes, which have none before they are played; null for what was not measured here. */
  loudnessOf(request: FitRequest): number | null {
    return this.loudness.get(fitKey(request)) ?? null;
  }

  /** For the curious and for tests. */
  figures() {
    return {
      buffers: this.cache.size,
      bytes: this.usedBytes,
      mostBytes: cacheBytes,
      waiting: this.queue.length,
      working: this.busy.size,
      ...this.counts,
    };
  }

  private work(): void {
    while (this.idle.length > 0 && this.queue.length > 0) {
      let best = 0;
      for (let i = 1; i < this.queue.length; i++) if (this.queue[i].priority < this.queue[best].priority) best = i;
      const [waiting] = this.queue.splice(best, 1),
        worker = this.idle.pop() as Worker,
        id = this.nextId++;
      this.busy.set(worker, waiting);
      const finish = () => {
        this.busy.delete(worker);
        this.idle.push(worker);
        this.work();
      };
      worker.onmessage = ({ data }: MessageEvent<FitReply>) => {
        if (data.id !== id) return;
        if (data.ok) {
          if (data.loudnessLufs !== null) this.loudness.set(waiting.key, data.loudnessLufs);
          waiting.done(this.keep(waiting.key, data.channels));
        } else waiting.fail(new Error(data.message));
        finish();
      };
      worker.onerror = (event) => {
        waiting.fail(new Error(event.message || 'Fitting failed.'));
        finish();
      };
      worker.postMessage({
        id,
        request: waiting.request,
        url: soundUrl(waiting.request),
        sound: ownSound(waiting.request.soundSha),
      } satisfies FitMessage);
    }
  }

  private keep(key: string, channels: readonly Float32Array[]): AudioBuffer {
    const buffer = new AudioBuffer({ numberOfChannels: 2, length: channels[0].length, sampleRate: this.sampleRateHz });
    for (let channel = 0; channel < 2; channel++) buffer.copyToChannel(channels[channel] as Float32Array<ArrayBuffer>, channel);
    this.cache.set(key, buffer);
    this.counts.made++;
    this.usedBytes += buffer.length * 8;
    for (const [oldest, old] of this.cache) {
      if (this.usedBytes <= cacheBytes || oldest === key) break;
      this.cache.delete(oldest);
      this.counts.dropped++;
      this.usedBytes -= old.length * 8;
    }
    return buffer;
  }
}
