import type { Near } from '~core/search/query';
import { selectRows } from '../db/connection';
import { titlesSql } from '../db/queries/loops';
import { askedSound } from './asked-sounds.server';
import { readTree } from './projects.server';

/**
 * What a search is to be near to, by its name; empty for what has none.
 * @param projectId the project in the room, whose tracks may be meant
 */
export async function nearName(near: Near | null, personId: number, projectId: number | null): Promise<string> {
  if (!near || near.kind === 'tapped') return '';
  if (near.kind === 'tracks') {
    const tracks = projectId === null ? [] : ((await readTree(projectId))?.tracks ?? []),
      names = tracks.filter(({ id }) => near.trackIds.includes(id)).map(({ name }) => name);
    return names.length > 0 ? `the ${names.length === 1 ? 'track' : 'tracks'} ${names.join(', ')}` : 'tracks that are not in this project';
  }
  if (near.kind === 'sound') return (await askedSound(near.id, personId))?.name ?? 'a sound that is no longer known';
  const ids = near.kind === 'than' ? [near.id] : near.ids,
    rows = await selectRows<{ id: number; title: string }>(titlesSql, [ids]);
  return ids.flatMap((id) => rows.find((row) => row.id === id)?.title ?? []).join(', ');
}
