import { fitKey, type FitRequest } from '~core/arrangement/fit-request';
import type { Schedule } from '~core/arrangement/schedule';
import { fitPriority, type FitPool } from './fit-pool';
import type { EngineStore } from './store';

/** Requests of one kind replace the requests of that kind before: what the list or the project has moved on from is dropped. */
export class FitAhead {
  /** How many schedules have come: what is left of an earlier one is not counted. */
  private schedules = 0;

  constructor(
    private readonly pool: FitPool,
    private readonly store: EngineStore,
  ) {}

  /** Everything the project sounds; how much is still open is told. */
  project(schedule: Schedule): void {
    const { pool, store } = this;
    pool.drop(fitPriority.project, new Set(schedule.requests.keys()));
    const wanted = new Set([...schedule.requests.values()].map(({ soundSha }) => soundSha)),
      mark = (change: (silent: Set<string>) => void) => {
        const before = store.getState().silentSounds,
          silent = new Set(before);
        change(silent);
        if (silent.size !== before.size) store.setState({ silentSounds: silent });
      };
    mark((silent) => silent.forEach((soundSha) => wanted.has(soundSha) || silent.delete(soundSha)));
    let open = 0;
    const own = ++this.schedules,
      count = () => {
        if (own === this.schedules) store.setState({ fittingCount: open });
      };
    for (const request of schedule.requests.values()) {
      if (pool.peek(request)) continue;
      open++;
      pool
        .request(request, fitPriority.project)
        .then(
          () => mark((silent) => silent.delete(request.soundSha)),
          (error: Error) => {
            if (error.message === 'no longer wanted') return;
            store.setState({ trouble: error.message });
            mark((silent) => silent.add(request.soundSha));
          },
        )
        .finally(() => {
          open--;
          count();
        });
    }
    count();
  }

  neighbours(requests: readonly FitRequest[]): void {
    this.want(requests, fitPriority.neighbour);
  }

  shortlist(requests: readonly FitRequest[]): void {
    this.want(requests, fitPriority.shortlist);
  }

  private want(requests: readonly FitRequest[], priority: number): void {
    this.pool.drop(priority, new Set(requests.map(fitKey)));
    for (const request of requests) void this.pool.request(request, priority).catch(() => {});
  }
}
