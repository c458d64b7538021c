import type { Change } from '~core/library/change';
import { api, refusalOf } from './api';
import { toast } from './toast';

/** Which loops: by id, or all that a search finds. */
export type Selection = { readonly ids: readonly number[] } | { readonly address: string };

export interface ChangePreview {
  readonly chosen: number;
  readonly changing: number;
  readonly lookedAt: number;
  readonly lines: readonly { readonly id: number; readonly title: string; readonly before: string; readonly after: string }[];
}

const send = (body: object): Promise<Response | null> =>
  fetch(api.changes, { method: 'post', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }).catch(() => null);

/** What a change would do; a sentence when it cannot be done. */
export async function askPreview(selection: Selection, change: Change): Promise<ChangePreview | string> {
  const response = await send({ selection, change, preview: true }),
    answer: unknown = await response?.json().catch(() => null);
  return response?.ok ? (answer as ChangePreview) : (refusalOf(answer) ?? 'The server did not answer.');
}

/** Does it, and says so with a way back. @returns what is wrong, in words; null when it has begun */
export async function changeMany(selection: Selection, change: Change): Promise<string | null> {
  const response = await send({ selection, change }),
    answer: unknown = await response?.json().catch(() => null);
  if (!response?.ok) return refusalOf(answer) ?? 'The server did not answer.';
  const { id, loops } = answer as { id: number; loops: number };
  toast(`Changing ${loops} ${loops === 1 ? 'loop' : 'loops'}.`, { action: { label: 'Undo', onClick: () => void undoMany(id) } });
  return null;
}

/** Has the chosen listened to again, from their files. What people said stays. */
export async function hearAnew(selection: Selection): Promise<void> {
  const form = new URLSearchParams('ids' in selection ? { ids: selection.ids.join(',') } : { address: selection.address }),
    response = await fetch(api.heardAnew, { method: 'post', body: form }).catch(() => null),
    answer: unknown = await response?.json().catch(() => null);
  if (response?.ok)
    toast(`${(answer as { loops: number }).loops} loops are listened to again, behind what comes in. What people said stays.`);
  else toast.error(refusalOf(answer) ?? 'The server did not answer.');
}

async function undoMany(changeId: number): Promise<void> {
  const response = await fetch(api.change(changeId), { method: 'delete' }).catch(() => null);
  if (response?.ok) toast('Taken back.');
  else toast.error(refusalOf(await response?.json().catch(() => null)) ?? 'It could not be taken back. Please try again.');
}
