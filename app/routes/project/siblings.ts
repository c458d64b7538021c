import { inRoom } from '~contracts/room-address';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';

/** From where others come that may play in a clip's place. */
export type OthersFrom = 'set' | 'like' | 'fit';

export const othersInWords: Readonly<Record<OthersFrom, string>> = {
  set: 'of its set',
  like: 'like it',
  fit: 'the same instrument, by how well it fits',
};

/**
 * Where those are asked for that may play in the place of a loop; null where there can be none. What else is told of the loop meanwhile (stars, a note)
 * leaves it as it is, and so the list through which somebody is going.
 * @param projectId by whose tempo and key their fit is told
 */
export function othersAddress(row: WholeLoop, from: OthersFrom, projectId: number): string | null {
  if (from === 'set' && row.setId === null) return null;
  const search = {
    set: `?set=${row.setId}&sort=title&dir=asc&limit=60`,
    like: `?near=like:${row.id}:1-1-1&limit=40`,
    fit: `?${row.source.instrument ? `instrument=${encodeURIComponent(row.source.instrument)}&` : ''}sort=fit&limit=40`,
  }[from];
  return `/api/v1/loops${inRoom(search, projectId)}`;
}

/** Loops that may play in the place of one. @param address of `othersAddress` */
export async function fetchOthers(address: string | null, loopId: number): Promise<LoopCard[]> {
  const response = address === null ? null : await fetch(address).catch(() => null);
  if (!response?.ok) return [];
  return ((await response.json()) as { rows: LoopCard[] }).rows.filter(({ id }) => id !== loopId);
}
