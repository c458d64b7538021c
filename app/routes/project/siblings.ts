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

/** Loops that may play in the place of one. @param projectId by whose tempo and key their fit is told */
export async function othersFor(row: WholeLoop, from: OthersFrom, projectId: number): Promise<LoopCard[]> {
  if (from === 'set' && row.setId === null) return [];
  const search = {
      set: `?set=${row.setId}&sort=title&dir=asc&limit=60`,
      like: `?near=like:${row.id}:1-1-1&limit=40`,
      fit: `?${row.source.instrument ? `instrument=${encodeURIComponent(row.source.instrument)}&` : ''}sort=fit&limit=40`,
    }[from],
    response = await fetch(`/api/v1/loops${inRoom(search, projectId)}`).catch(() => null);
  if (!response?.ok) return [];
  return ((await response.json()) as { rows: LoopCard[] }).rows.filter(({ id }) => id !== row.id);
}
