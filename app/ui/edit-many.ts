import type { Change } from '~core/library/change';
import { api } from './api';
import { ask, askOrTell, withForm, withJson, type Fields } from './ask';
import { toast } from './toast';

/** Which loops: by id, or all that a search finds. */
export type Selection = { readonly ids: readonly number[] } | { readonly address: string };

export interface ChangePreview {
  readonly chosen: number;
  readonly changing: number;
  readonly lookedAt: number;
  readonly lines: readonly { readonly id: number; readonly title: string; readonly before: string; readonly after: string }[];
}

/** What a change would do; a sentence when it cannot be done. */
export async function askPreview(selection: Selection, change: Change): Promise<ChangePreview | string> {
  const asked = await ask<ChangePreview>(api.changes, withJson('post', { selection, change, preview: true }));
  return asked.ok ? asked.answer : asked.wrong;
}

/** Does it, and says so with a way back. @returns what is wrong, in words; null when it has begun */
export async function changeMany(selection: Selection, change: Change): Promise<string | null> {
  const asked = await ask<{ id: number; loops: number }>(api.changes, withJson('post', { selection, change }));
  if (!asked.ok) return asked.wrong;
  const { id, loops } = asked.answer;
  toast(`Changing ${loops} ${loops === 1 ? 'loop' : 'loops'}.`, { action: { label: 'Undo', onClick: () => void undoMany(id) } });
  return null;
}

/** Has the chosen listened to again, from their files. What people said stays. */
export async function hearAnew(selection: Selection): Promise<void> {
  const fields: Fields = 'ids' in selection ? { ids: selection.ids.join(',') } : { address: selection.address },
    asked = await askOrTell<{ loops: number }>(api.heardAnew, withForm('post', fields));
  if (asked) toast(`${asked.loops} loops are listened to again, behind what comes in. What people said stays.`);
}

async function undoMany(changeId: number): Promise<void> {
  if (await askOrTell(api.change(changeId), { method: 'delete' }, 'It could not be taken back. Please try again.')) toast('Taken back.');
}
