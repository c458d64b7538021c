import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { applyEdit, EditError, type Edit } from '~core/arrangement/edit';
import type { Project } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import type { OpenProject } from '~contracts/open-project';

export type SaveState = 'saved' | 'saving' | 'stale' | 'failed';

export interface ProjectState {
  readonly id: number | null;
  readonly project: Project | null;
  readonly loops: ReadonlyMap<number, WholeLoop>;
  readonly undo: readonly Edit[];
  readonly redo: readonly Edit[];
  readonly save: SaveState;
  readonly message: string | null;
}

/** An edit that the server has not taken yet, and what the screen showed before it. */
interface Unsent {
  readonly edit: Edit;
  readonly before: Pick<ProjectState, 'project' | 'undo' | 'redo'>;
}

/**
 * The project in the room as this browser edits it: an edit is heard and seen at once, then sent with the revision it was
 * made on, one after the other. What the server refuses goes from the screen again. When somebody else was faster, nothing is sent any
 * more until the newer version is loaded; what was not sent by then is put on top of it where it still fits.
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
  }));
  private revision = 0;
  private seenRevision = 0;
  private waiting: Unsent[] = [];
  private sending = false;
  private newerWanted = false;

  /** The next load may replace what is shown by a newer revision. */
  askForNewer(): void {
    this.newerWanted = true;
  }

  /**
   * Takes what the server has. Pages load anew for many reasons; a newer revision of the project that is open replaces it only
   * when the person asked, else it is told like an announcement.
   */
  load(open: OpenProject | null): void {
    const state = this.store.getState();
    if (open && state.id === open.id && !this.newerWanted) {
      // Only facts about its loops may be newer.
      this.takeLoops(open.loops);
      this.heard(open.id, open.revision);
      return;
    }
    const unsent = open && state.id === open.id ? this.waiting.map(({ edit }) => edit) : [];
    this.newerWanted = false;
    this.revision = open?.revision ?? 0;
    this.seenRevision = this.revision;
    this.waiting = [];
    this.store.setState({
      id: open?.id ?? null,
      project: open?.project ?? null,
      loops: new Map([...(open && state.id === open.id ? state.loops : []), ...(open?.loops.map((row) => [row.id, row] as const) ?? [])]),
      undo: [],
      redo: [],
      save: 'saved',
      message: null,
    });
    const lost = this.putOnTop(unsent);
    if (lost > 0)
      this.store.setState({
        message: `${lost === 1 ? 'One of your changes' : `${lost} of your changes`} no longer fits the newer version and was left out.`,
      });
  }

  /** Applies edits again, each that fits; @returns how many do not. */
  private putOnTop(edits: readonly Edit[]): number {
    return edits.filter((edit) => this.edit(edit) !== null).length;
  }

  /** Applies an edit; with `rows` the loops that it brings in. Returns what is wrong, or null. */
  edit(edit: Edit, rows: readonly WholeLoop[] = []): string | null {
    const state = this.store.getState();
    if (!state.project) return 'There is no project in the room.';
    if (state.save === 'stale') return state.message;
    try {
      const { project, inverse } = applyEdit(state.project, edit),
        { undo, redo } = state;
      this.store.setState({
        project,
        loops: rows.length ? new Map([...state.loops, ...rows.map((row) => [row.id, row] as const)]) : state.loops,
        undo: [...undo, inverse].slice(-200),
        redo: [],
      });
      this.send({ edit, before: { project: state.project, undo, redo } });
      return null;
    } catch (error) {
      if (error instanceof EditError) return error.message;
      throw error;
    }
  }

  undo(): void {
    this.step('undo', 'redo');
  }
  redo(): void {
    this.step('redo', 'undo');
  }

  private step(from: 'undo' | 'redo', to: 'undo' | 'redo'): void {
    const state = this.store.getState(),
      edit = state[from].at(-1);
    if (!edit || !state.project || state.save === 'stale') return;
    const { project, inverse } = applyEdit(state.project, edit),
      { undo, redo } = state;
    this.store.setState({ project, [from]: state[from].slice(0, -1), [to]: [...state[to], inverse] });
    this.send({ edit, before: { project: state.project, undo, redo } });
  }

  /** Tells of a revision that the server announced. */
  heard(projectId: number, revision: number): void {
    if (projectId !== this.store.getState().id) return;
    this.seenRevision = Math.max(this.seenRevision, revision);
    if (!this.sending && this.waiting.length === 0 && this.seenRevision > this.revision) this.becomeStale();
  }

  /** Takes what is known now of loops it uses. */
  takeLoops(rows: readonly WholeLoop[]): void {
    this.store.setState(({ loops }) => ({ loops: new Map([...loops, ...rows.map((row) => [row.id, row] as const)]) }));
  }

  private becomeStale(): void {
    this.store.setState({
      save: 'stale',
      message:
        this.waiting.length > 0
          ? 'This project was changed in another window. Load the newer version: what you changed last is put on top of it where it fits.'
          : 'This project was changed in another window. Load the newer version to go on; nothing of theirs was overwritten.',
    });
  }

  /** The screen goes back to before the refused edits; those made since stay where they fit. */
  private takeBack([first]: readonly Unsent[], why: string): string {
    const later = this.waiting.splice(0).map(({ edit }) => edit);
    this.store.setState({ ...first.before, save: 'failed' });
    const lost = this.putOnTop(later),
      message = `${why} It was taken back${lost > 0 ? `, and with it ${lost} later ${lost === 1 ? 'change' : 'changes'}` : ''}.`;
    this.store.setState({ save: 'failed', message });
    return message;
  }

  private send(unsent: Unsent): void {
    this.waiting.push(unsent);
    if (!this.sending) void this.flush();
  }

  private async flush(): Promise<void> {
    this.sending = true;
    let refusal: string | null = null;
    while (this.waiting.length > 0) {
      const { id } = this.store.getState(),
        flight = this.waiting.splice(0);
      this.store.setState({ save: 'saving' });
      try {
        const response = await fetch(`/api/v1/projects/${id}/edits`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ revision: this.revision, edits: flight.map(({ edit }) => edit) }),
        });
        const result = (await response.json()) as { ok: boolean; revision: number; message?: string; reason?: string };
        if (!result.ok) {
          if (result.reason === 'stale') {
            this.waiting.unshift(...flight);
            this.becomeStale();
            break;
          }
          refusal = this.takeBack(flight, result.message ?? 'The change was refused.');
          continue;
        }
        this.revision = result.revision;
      } catch {
        this.waiting.unshift(...flight);
        this.store.setState({ save: 'failed', message: 'The server cannot be reached. Changes are kept here and sent again.' });
        await new Promise((next) => setTimeout(next, 2000));
      }
    }
    this.sending = false;
    const { save } = this.store.getState();
    if (save === 'stale') return;
    if (this.seenRevision > this.revision) this.becomeStale();
    // What was refused stays said until the next change, whatever was saved after it.
    else if (refusal !== null) this.store.setState({ save: 'failed', message: refusal });
    else if (
      save === 'saving' ||
      (save === 'failed' && this.waiting.length === 0 && this.store.getState().message?.startsWith('The server'))
    )
      this.store.setState({ save: 'saved', message: null });
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
