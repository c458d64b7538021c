import type { Near } from '~core/search/query';
import { selectRows } from '../db/connection';
import { titlesSql } from '../db/queries/loops';
import { askedSound } from './asked-sounds.server';

/** What a search is to be near to, by its name; empty for what has none. */
export async function nearName(near: Near | null, personId: number): Promise<string> {
  if (!near || near.kind === 'tapped') return '';
  if (near.kind === 'sound') return (await askedSound(near.id, personId))?.name ?? 'a sound that is no longer known';
  const ids = near.kind === 'than' ? [near.id] : near.ids,
    rows = await selectRows<{ id: number; title: string }>(titlesSql, [ids]);
  return ids.flatMap((id) => rows.find((row) => row.id === id)?.title ?? []).join(', ');
}
