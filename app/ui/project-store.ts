import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { EditError, type Edit } from '~core/arrangement/edit';
import { shareProject, withAgreed, withStep, type SharedProject, type Step, type Takeback } from '~core/arrangement/shared-project';
import { loopIdsIn, type Project } from '~core/arrangement/tree';
import type { Agreed, StepsTaken } from '~contracts/project-steps';
import type { WholeLoop } from '~contracts/whole-loop';
import type { OpenProject } from '~contracts/open-project';
import { refusalOf } from './ask';
import { fetchLoops } from './changed-loops';
import { newId } from './new-id';

export type SaveState = 'saved' | 'saving' | 'failed';

export interface ProjectState {
  readonly id: number | null;
  readonly project: Project | null;
  readonly loops: ReadonlyMap<number, WholeLoop>;
  readonly undo: readonly Takeback[];
  readonly redo: readonly Takeback[];
  readonly save: SaveState;
  readonly message: string | null;
  /** What is heard instead of it for a while; nothing of it is kept. */
  readonly preview: Project | null;
}

const mostTakebacks = 200,
  mostSent = 200,
  againAfterMs = 2000;

/** What became of steps that were sent: taken, refused for good, or to be sent again, with what to say meanwhile. */
type Sent = { readonly taken: StepsTaken } | { readonly refused: string } | { readonly wait: string };

async function send(id: number, revision: number, steps: readonly Step[]): Promise<Sent> {
  const kept = 'Changes are kept here and sent again.';
  try {
    const response = await fetch(`/api/v1/projects/${id}/edits`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ revision, steps }),
    });
    if (response.status === 401) return { wait: `You are signed out: sign in in another window. ${kept}` };
    if (response.status >= 500 || response.status === 429) return { wait: `The server could not take the change. ${kept}` };
    const answer = (await response.json()) as Partial<StepsTaken>;
    return answer.revision !== undefined && answer.steps
      ? { taken: answer as StepsTaken }
      : { refused: refusalOf(answer) ?? 'The change was refused.' };
  } catch {
    return { wait: `The server cannot be reached. ${kept}` };
  }
}

/**
 * The project in the room as this browser edits it: a step is heard and seen at once, then sent with the revision it was made on. What others do
 * comes in under it (`core/arrangement/shared-project`), so that all end with the same tree; of one's own only what no longer fits goes, and that is
 * said. Undo is one's own, and survives a reload.
 */
export class ProjectStore {
  readonly store = createStore<ProjectState>(() => ({
    id: null,
    project: null,
    loops: new Map(),
    undo: [],
    redo: [],
    save: 'saved',
    message: null,
    preview: null,
  }));
  private shared: SharedProject | null = null;
  private seenRevision = 0;
  private sending = false;
  private asking = false;

  constructor(private readonly fetchRows: (ids: readonly number[]) => Promise<readonly WholeLoop[]> = fetchLoops) {}

  /** Takes what the server has, for a project that was not open; of the one that is, the news alone. */
  load(open: OpenProject | null): void {
    const state = this.store.getState();
    if (open && state.id === open.id) {
      // Only facts about its loops may be newer; what was done to it comes as steps.
      this.takeLoops(open.loops);
      this.heard(open.id, open.revision);
      return;
    }
    // What was done to the one that leaves the room goes there all the same.
    if (state.id !== null && this.shared && this.shared.own.length > 0) void this.sendLeft(state.id, this.shared);
    this.shared = open && shareProject(open.project, open.revision);
    this.seenRevision = open?.revision ?? 0;
    this.store.setState({
      id: open?.id ?? null,
      project: open?.project ?? null,
      loops: new Map(open?.loops.map((row) => [row.id, row] as const) ?? []),
      undo: open?.undo ?? [],
      redo: open?.redo ?? [],
      save: 'saved',
      message: null,
      preview: null,
    });
  }

  /** Applies an edit; with `rows` the loops that it brings in. Returns what is wrong, or null. */
  edit(edit: Edit, rows: readonly WholeLoop[] = []): string | null {
    const state = this.store.getState();
    if (!this.shared) return 'There is no project in the room.';
    try {
      const step: Step = { stepId: newId(), edit },
        { shared, inverse } = withStep(this.shared, step);
      this.shared = shared;
      this.store.setState({
        project: shared.shown,
        loops: rows.length ? new Map([...state.loops, ...rows.map((row) => [row.id, row] as const)]) : state.loops,
        undo: [...state.undo, { stepId: step.stepId, inverse }].slice(-mostTakebacks),
        redo: [],
        preview: null,
      });
      void this.flush();
      return null;
    } catch (error) {
      if (error instanceof EditError) return error.message;
      throw error;
    }
  }

  /** Lets another state be heard in its place; null ends that, and so does whatever is done to the project meanwhile. @param rows the loops that it brings in */
  hearInstead(preview: Project | null, rows: readonly WholeLoop[] = []): void {
    if (rows.length > 0) this.takeLoops(rows);
    this.store.setState({ preview });
  }

  undo(): void {
    this.takeBack('undo', 'redo');
  }
  redo(): void {
    this.takeBack('redo', 'undo');
  }

  /** What takes back the step that was made last, whatever is done after it: for a button beside what is said of that step. */
  undoOfLast(): () => void {
    const stepId = this.store.getState().undo.at(-1)?.stepId;
    return () => void (stepId !== undefined && this.takeBack('undo', 'redo', stepId));
  }

  /** @param stepId of the step; left out, the last */
  private takeBack(from: 'undo' | 'redo', to: 'undo' | 'redo', stepId = this.store.getState()[from].at(-1)?.stepId): void {
    const state = this.store.getState(),
      meant = state[from].find((each) => each.stepId === stepId);
    if (!meant || !this.shared) return;
    const rest = state[from].filter((each) => each !== meant);
    try {
      const step: Step = { stepId: newId(), edit: meant.inverse, undoes: meant.stepId },
        { shared, inverse } = withStep(this.shared, step);
      this.shared = shared;
      this.store.setState({ project: shared.shown, [from]: rest, [to]: [...state[to], { stepId: step.stepId, inverse }], preview: null });
      void this.flush();
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      // Somebody has done something since that leaves nothing to take back. If it was oneself, that may be taken back first.
      const isLast = meant === state[from].at(-1);
      this.store.setState({ ...(isLast ? { [from]: rest } : {}), message: `That can no longer be taken back: ${error.message}` });
    }
  }

  /** Tells of a revision that the server announced. */
  heard(projectId: number, revision: number): void {
    if (projectId !== this.store.getState().id || !this.shared) return;
    this.seenRevision = Math.max(this.seenRevision, revision);
    // What is on its way brings the news along.
    if (!this.sending && this.seenRevision > this.shared.revision) void this.ask();
  }

  /** Takes what is known now of loops it uses. */
  takeLoops(rows: readonly WholeLoop[]): void {
    this.store.setState(({ loops }) => ({ loops: new Map([...loops, ...rows.map((row) => [row.id, row] as const)]) }));
  }

  /** Asks what others have done. */
  private async ask(): Promise<void> {
    const { id } = this.store.getState();
    if (this.asking || !this.shared || id === null) return;
    this.asking = true;
    const { revision } = this.shared;
    try {
      const response = await fetch(`/api/v1/projects/${id}/edits?since=${this.shared.revision}`),
        agreed = response.ok ? ((await response.json()) as Agreed) : null;
      // A whole project does not tell which of one's own are in it already; those on their way bring it along.
      if (agreed && !(agreed.project && this.shared.own.length > 0)) this.takeAgreed(id, agreed);
    } catch {
      // It is heard of again with the next step, or when the stream stands again.
    }
    this.asking = false;
    // Told of more while that was on its way, or of another project that came into the room meanwhile.
    const isOther = this.store.getState().id !== id;
    if (this.shared && this.seenRevision > this.shared.revision && (isOther || this.shared.revision > revision)) void this.ask();
  }

  /** Puts what was agreed under one's own. @param sent of one's own, which are in it unless they were refused. @returns what is to be said about it; null for nothing */
  private takeAgreed(id: number, agreed: Agreed & Partial<StepsTaken>, sent: readonly Step[] = []): string | null {
    if (!this.shared || this.store.getState().id !== id) return null;
    if (agreed.revision <= this.shared.revision && !agreed.refused?.length) return null;
    const before = this.shared,
      inIt = new Set(sent.map(({ stepId }) => stepId)),
      from = agreed.project ? shareProject(agreed.project, agreed.revision) : null,
      { shared, lost } = from
        ? withAgreed({ ...from, own: before.own.filter(({ stepId }) => !inIt.has(stepId)) }, agreed.revision, [], agreed.refused)
        : withAgreed(before, agreed.revision, agreed.steps, agreed.refused);
    this.shared = shared;
    const gone = [...(agreed.refused ?? []), ...lost],
      ids = new Set(gone.map(({ stepId }) => stepId)),
      { undo, redo } = this.store.getState();
    if (shared.shown !== before.shown) this.store.setState({ project: shared.shown });
    if (gone.length > 0)
      this.store.setState({
        undo: undo.filter(({ stepId }) => !ids.has(stepId)),
        redo: redo.filter(({ stepId }) => !ids.has(stepId)),
      });
    void this.fetchUnknown();
    if (gone.length === 0) return null;
    return gone.length === 1
      ? `One of your changes was left out: ${gone[0].message}`
      : `${gone.length} of your changes were left out: ${gone[0].message}`;
  }

  /** Others may have brought in loops that this page has never seen. */
  private async fetchUnknown(): Promise<void> {
    const { project, loops } = this.store.getState(),
      unknown = (project ? loopIdsIn(project) : []).filter((loopId) => !loops.has(loopId));
    if (unknown.length === 0) return;
    this.takeLoops(await this.fetchRows(unknown.slice(0, mostSent)).catch(() => []));
  }

  private async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    let said: string | null = null;
    while (this.shared && this.shared.own.length > 0) {
      const { id } = this.store.getState(),
        flight = this.shared.own.slice(0, mostSent);
      if (id === null) break;
      this.store.setState({ save: 'saving' });
      const answer = await send(id, this.shared.revision, flight);
      if ('wait' in answer) {
        if (this.store.getState().id === id) this.store.setState({ save: 'failed', message: answer.wait });
        await new Promise((next) => setTimeout(next, againAfterMs));
      } else if ('taken' in answer) said = this.takeAgreed(id, answer.taken, flight) ?? said;
      // What cannot even be read, or a project that is gone: none of it will ever be taken.
      else said = this.dropOwn(flight, answer.refused);
    }
    this.sending = false;
    if (said !== null) this.store.setState({ save: 'failed', message: said });
    else if (this.store.getState().save !== 'saved') this.store.setState({ save: 'saved', message: null });
    if (this.shared && this.seenRevision > this.shared.revision) void this.ask();
  }

  /** Sends what was done to a project that is no longer in the room; what it no longer fits is said. */
  private async sendLeft(id: number, { own, revision }: SharedProject): Promise<void> {
    let waits: string | null = null;
    for (let from = 0; from < own.length;) {
      const answer = await send(id, revision, own.slice(from, from + mostSent));
      if ('wait' in answer) {
        waits = answer.wait;
        this.store.setState({ message: waits });
        await new Promise((next) => setTimeout(next, againAfterMs));
        continue;
      }
      const message = 'taken' in answer ? answer.taken.refused[0]?.message : answer.refused;
      if (message !== undefined) this.store.setState({ message: `Of the project that was in the room before: ${message}` });
      from += mostSent;
    }
    if (waits !== null && this.store.getState().message === waits) this.store.setState({ message: null });
  }

  private dropOwn(steps: readonly Step[], message: string): string {
    if (!this.shared) return message;
    const { shared } = withAgreed(
      this.shared,
      this.shared.revision,
      [],
      steps.map(({ stepId }) => ({ stepId, message })),
    );
    this.shared = shared;
    const ids = new Set(steps.map(({ stepId }) => stepId));
    this.store.setState(({ undo, redo }) => ({
      project: shared.shown,
      undo: undo.filter(({ stepId }) => !ids.has(stepId)),
      redo: redo.filter(({ stepId }) => !ids.has(stepId)),
    }));
    return `${message} It was taken back.`;
  }
}

export const ProjectStoreContext = createContext<ProjectStore | null>(null);

export function useProjectStore(): ProjectStore {
  const projectStore = useContext(ProjectStoreContext);
  if (!projectStore) throw new Error('outside the room');
  return projectStore;
}

export function useProject<T>(select: (state: ProjectState) => T): T {
  return useStore(useProjectStore().store, select);
}
