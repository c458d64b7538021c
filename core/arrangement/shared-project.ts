import { applyEdit, EditError, type Edit } from './edit';
import type { Project } from './tree';

/** One thing that somebody did: an edit with a name of its own, so that it is done once however often it is sent. */
export interface Step {
  readonly stepId: string;
  readonly edit: Edit;
  /** The step that this one takes back; none for what was done anew. */
  readonly undoes?: string;
}

/** What could be taken back, or done again: the step, and the edit that does so. */
export interface Takeback {
  readonly stepId: string;
  readonly inverse: Edit;
}

export interface Refused {
  readonly stepId: string;
  readonly message: string;
}

/** Steps put on a project one after the other, each that still fits; what no longer fits is refused by itself, in words. */
export function putOn(
  project: Project,
  steps: readonly Step[],
): { readonly project: Project; readonly taken: readonly (Step & { readonly inverse: Edit })[]; readonly refused: readonly Refused[] } {
  const taken: (Step & { inverse: Edit })[] = [],
    refused: Refused[] = [];
  let current = project;
  for (const step of steps)
    try {
      const { project: next, inverse } = applyEdit(current, step.edit);
      current = next;
      taken.push({ ...step, inverse });
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      refused.push({ stepId: step.stepId, message: error.message });
    }
  return { project: current, taken, refused };
}

/** A project as one of several editors has it: what all agreed on, and what of one's own the others don't know yet. */
export interface SharedProject {
  /** What was agreed, as of a revision. */
  readonly base: Project;
  readonly revision: number;
  /** One's own steps that are not agreed, oldest first. */
  readonly own: readonly Step[];
  /** The base with one's own on top: what is seen and heard. */
  readonly shown: Project;
}

/** A project as it was opened, with nothing of one's own. */
export const shareProject = (base: Project, revision: number): SharedProject => ({ base, revision, own: [], shown: base });

/** One more step of one's own. @throws {EditError} when it does not fit what is shown */
export function withStep(shared: SharedProject, step: Step): { readonly shared: SharedProject; readonly inverse: Edit } {
  const { project, inverse } = applyEdit(shared.shown, step.edit);
  return { shared: { ...shared, own: [...shared.own, step], shown: project }, inverse };
}

/**
 * What has been agreed since: others' steps and one's own among them, in the order in which they hold for all. One's own that are not among
 * them stay on top.
 * @param agreed of the revisions right behind the base's, in order
 * @param refused of one's own, which go
 * @returns `lost`: of one's own that waited, those that no longer fit what the others made of it
 */
export function withAgreed(
  shared: SharedProject,
  revision: number,
  agreed: readonly Step[],
  refused: readonly Refused[] = [],
): { readonly shared: SharedProject; readonly lost: readonly Refused[] } {
  const done = new Set([...agreed, ...refused].map(({ stepId }) => stepId)),
    waiting = shared.own.filter(({ stepId }) => !done.has(stepId));
  // Only one's own, in their order: what is shown is what was agreed.
  const isOwn =
      refused.length === 0 &&
      agreed.length + waiting.length === shared.own.length &&
      agreed.every(({ stepId }, k) => shared.own[k].stepId === stepId),
    // Of all of one's own, in order, what they come to is what is shown.
    base = isOwn && waiting.length === 0 ? shared.shown : putOn(shared.base, agreed).project;
  if (isOwn) return { shared: { base, revision, own: waiting, shown: shared.shown }, lost: [] };
  const { project, refused: lost, taken } = putOn(base, waiting);
  return { shared: { base, revision, own: taken.map(({ inverse: _, ...step }) => step), shown: project }, lost };
}

/** What a person could take back and do again, told by their own steps in order: a step that takes one back is what can be done again.
 * What takes back a step from before the first of these says nothing. */
export function takebacksOf(steps: readonly (Step & { readonly inverse: Edit })[]): {
  readonly undo: Takeback[];
  readonly redo: Takeback[];
} {
  let undo: Takeback[] = [],
    redo: Takeback[] = [];
  for (const { stepId, inverse, undoes } of steps)
    if (undoes === undefined) {
      undo = [...undo, { stepId, inverse }];
      redo = [];
    } else if (undo.some((each) => each.stepId === undoes)) {
      undo = undo.filter((each) => each.stepId !== undoes);
      redo = [...redo, { stepId, inverse }];
    } else if (redo.some((each) => each.stepId === undoes)) {
      redo = redo.filter((each) => each.stepId !== undoes);
      undo = [...undo, { stepId, inverse }];
    }
  return { undo, redo };
}
