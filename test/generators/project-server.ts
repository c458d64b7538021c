import type { Edit } from '../../core/arrangement/edit';
import { putOn, type Step } from '../../core/arrangement/shared-project';
import { emptyProject, type Project } from '../../core/arrangement/tree';
import type { OpenProject } from '~contracts/open-project';
import { plainTrack } from './track';

/** The project that it has at first. */
export const served: Project = {
  ...emptyProject('Engine Room', 124, { tonic: 2, mode: 'minor' }),
  tracks: [plainTrack({ name: 'Drums' })],
};

/** That project as a page that opens it gets it. */
export const openServed = (revision = 3, changes: Partial<OpenProject> = {}): OpenProject => ({
  id: 7,
  revision,
  project: served,
  loops: [],
  undo: [],
  redo: [],
  ...changes,
});

/** A server as the real one is: steps are put on top of what it has, each that fits; what was done since is told. */
export class FakeServer {
  tree = served;
  log: Step[] = [];
  sent: { revision: number; steps: Step[] }[] = [];
  down = false;
  /** What it answers instead of taking steps; 0 takes them. */
  status = 0;
  /** Tells the whole project instead of the steps. */
  tellsWhole = false;
  loseAnswer = false;
  readonly first = 3;
  get revision(): number {
    return this.first + this.log.length;
  }
  /** What somebody else does. */
  theirs(edit: Edit): void {
    this.take([{ stepId: `theirs-${this.log.length}`, edit }]);
  }
  private take(steps: readonly Step[]) {
    const {
      project: next,
      taken,
      refused,
    } = putOn(
      this.tree,
      steps.filter(({ stepId }) => !this.log.some((each) => each.stepId === stepId)),
    );
    this.tree = next;
    this.log.push(...taken.map(({ inverse: _, ...step }) => step));
    return refused;
  }
  fetch = async (address: string, options?: { body: string }) => {
    if (this.down) throw new Error('offline');
    if (!options) {
      const since = Number(/since=(\d+)/.exec(address)?.[1]);
      return { ok: true, json: async () => this.since(since) };
    }
    if (this.status) return { ok: false, status: this.status, json: async () => ({ title: 'Trouble' }) };
    const body = JSON.parse(options.body) as { revision: number; steps: Step[] };
    this.sent.push(body);
    const refused = this.take(body.steps);
    if (this.loseAnswer) {
      this.loseAnswer = false;
      throw new Error('lost');
    }
    return { ok: true, json: async () => ({ ...this.since(body.revision), refused }) };
  };
  private since(revision: number) {
    return this.tellsWhole
      ? { revision: this.revision, steps: [], project: this.tree }
      : { revision: this.revision, steps: this.log.slice(revision - this.first) };
  }

  /** What others have done is told as it was when it was asked for, when it is let. */
  answerWhenLet(): (() => void)[] {
    const lets: (() => void)[] = [];
    globalThis.fetch = (async (address: string) => {
      const told: unknown = await (await this.fetch(address)).json();
      await new Promise<void>((go) => lets.push(go));
      return { ok: true, json: async () => told };
    }) as unknown as typeof fetch;
    return lets;
  }
}

/** The server behind `fetch` from now on. */
export function serveProject(): FakeServer {
  const server = new FakeServer();
  globalThis.fetch = server.fetch as unknown as typeof fetch;
  return server;
}

/** Lets all that waits for nothing but promises come to its end. */
export async function settled(): Promise<void> {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
}
