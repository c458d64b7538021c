import type { AudioEngine } from '~/audio/engine';
import { api, putOrDelete } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { toast } from '~/ui/toast';
import { wholeLoops } from '~/ui/whole-loops';
import type { LoopCard } from '~contracts/loop-card';

const soundingRow = (engine: AudioEngine): LoopCard | null => engine.store.getState().candidate?.row ?? null;

/** Makes what sounds a favourite, or one no longer, from any page. */
export async function favouriteSounding(engine: AudioEngine): Promise<void> {
  const row = soundingRow(engine);
  if (!row || row.id < 0) return;
  const found = await askOrTell<{ rows: LoopCard[] }>(`/api/v1/loops?id=${row.id}`);
  if (!found) return;
  const isWanted = !(found.rows[0]?.favourite ?? false);
  if (await askOrTell(api.favourite(row.id), { method: putOrDelete(isWanted) }))
    toast(isWanted ? `“${row.title}” is a favourite.` : `“${row.title}” is a favourite no longer.`);
}

/** Hears the one before or behind what sounds, of its set. */
export async function hearSibling(engine: AudioEngine, step: 1 | -1): Promise<void> {
  const row = soundingRow(engine);
  if (!row) return;
  if (row.setId === null) return void toast('It is of no set.');
  const found = await askOrTell<{ rows: LoopCard[] }>(`/api/v1/loops?set=${row.setId}&sort=title&dir=asc&limit=200&in=none`);
  if (!found) return;
  const { rows } = found,
    at = rows.findIndex(({ id }) => id === row.id),
    next = rows[(at + step + rows.length) % rows.length];
  if (!next || next.id === row.id) return void toast('It is the only one of its set.');
  const whole = await wholeLoops().of(next);
  if (whole) void engine.audition.start(whole);
}
