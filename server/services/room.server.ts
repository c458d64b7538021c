import type { SearchProject } from '../db/queries/line-conditions';
import { selectRows } from '../db/connection';
import { roomProjectSql } from '../db/queries/room';

/** Tempo and key of the project in the room, for ranking; null without one. */
export async function roomProject(projectId: number | null): Promise<SearchProject | null> {
  if (projectId === null) return null;
  const [row] = await selectRows<{ tempoBpm: number; keyTonic: number | null; keyMode: 'major' | 'minor' | null }>(roomProjectSql, [
    projectId,
  ]);
  return row
    ? {
        id: projectId,
        tempoBpm: row.tempoBpm,
        key: row.keyTonic === null || row.keyMode === null ? null : { tonic: row.keyTonic, mode: row.keyMode },
      }
    : null;
}
