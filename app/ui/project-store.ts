import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { applyEdit, EditError, type Edit } from '~core/arrangement/edit';
import type { Project } from '~core/arrangement/tree';
import type { LoopRow } from '~server/services/loop-rows';
import type { OpenProject } from '~server/services/projects.server';

export type SaveState = 'saved' | 'saving' | 'stale' | 'failed';

export interface ProjectState {
  readonly id: number | null;
  readonly project: Project | null;
  readonly loops: ReadonlyMap<number, LoopRow>;
  readonly undo: readonly Edit[];
  readonly redo: readonly Edit[];
  readonly save: SaveState;
  readonly message: string | null;
}

/**
 * The project in the room as this browser edits it: an edit is heard and seen at once, then sent with the revision it was
 * made on, one after the other. When somebody else was faster, nothing is sent any more until the newer version is loaded.
 */
export class ProjectDesk {
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
  private waiting: Edit[] = [];
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
      this.store.setState({ loops: new Map([...state.loops, ...open.loops.map((row) => [row.id, row] as const)]) });
      this.heard(open.id, open.revision);
      return;
    }
    this.newerWanted = false;
    this.revision = open?.revision ?? 0;
    this.seenRevision = this.revision;
    this.waiting = [];
    this.store.setState({
      id: open?.id ?? null,
      project: open?.project ?? null,
      loops: new Map(open?.loops.map((row) => [row.id, row])),
      undo: [],
      redo: [],
      save: 'saved',
      message: null,
    });
  }

  /** Applies an edit; with `rows` the loops that it brings in. Returns what is wrong, or null. */
  edit(edit: Edit, rows: readonly LoopRow[] = []): string | null {
    const state = this.store.getState();
    if (!state.project) return 'There is no project in the room.';
    if (state.save === 'stale') return state.message;
    try {
      const { project, inverse } = applyEdit(state.project, edit);
      this.store.setState({
        project,
        loops: rows.length ? new Map([...state.loops, ...rows.map((row) => [row.id, row] as const)]) : state.loops,
        undo: [...state.undo, inverse].slice(-200),
        redo: [],
      });
      this.send(edit);
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
    const { project, inverse } = applyEdit(state.project, edit);
    this.store.setState({ project, [from]: state[from].slice(0, -1), [to]: [...state[to], inverse] });
    this.send(edit);
  }

  /** Tells of a revision that the server announced. */
  heard(projectId: number, revision: number): void {
    if (projectId !== this.store.getState().id) return;
    this.seenRevision = Math.max(this.seenRevision, revision);
    if (!this.sending && this.waiting.length === 0 && this.seenRevision > this.revision) this.becomeStale();
  }

  private becomeStale(): void {
    this.waiting = [];
    this.store.setState({
      save: 'stale',
      message: 'This project was changed in another window. Load the newer version to go on; nothing of theirs was overwritten.',
    });
  }

  private send(edit: Edit): void {
    this.waiting.push(edit);
    if (!this.sending) void this.flush();
  }

  private async flush(): Promise<void> {
    this.sending = true;
    while (this.waiting.length > 0) {
      const { id } = this.store.getState(),
        edits = this.waiting.splice(0);
      this.store.setState({ save: 'saving' });
      try {
        const response = await fetch(`/api/projects/${id}/edits`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ revision: this.revision, edits }),
        });
        const result = (await response.json()) as { ok: boolean; revision: number; message?: string; reason?: string };
        if (!result.ok) {
          if (result.reason === 'stale') this.becomeStale();
          else {
            this.waiting = [];
            this.store.setState({ save: 'failed', message: result.message ?? 'The change was refused.' });
          }
          break;
        }
        this.revision = result.revision;
      } catch {
        this.waiting.unshift(...edits);
        this.store.setState({ save: 'failed', message: 'The server cannot be reached. Changes are kept here and sent again.' });
        await new Promise((next) => setTimeout(next, 2000));
      }
    }
    this.sending = false;
    const { save } = this.store.getState();
    if (save === 'stale') return;
    if (this.seenRevision > this.revision) this.becomeStale();
    else if (
      save === 'saving' ||
      (save === 'failed' && this.waiting.length === 0 && this.store.getState().message?.startsWith('The server'))
    )
      this.store.setState({ save: 'saved', message: null });
  }
}

export const DeskContext = createContext<ProjectDesk | null>(null);

export function useDesk(): ProjectDesk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error('outside the room');
  return desk;
}

export function useProject<T>(select: (state: ProjectState) => T): T {
  return useStore(useDesk().store, select);
}
