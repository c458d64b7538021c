import type { OutsideLine } from '~contracts/outside';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { toast } from '~/ui/toast';

/** Loops by the pack they are of: each pack is taken as one import. */
export function byPack(loops: readonly OutsideLine[]): ReadonlyMap<string, readonly OutsideLine[]> {
  const packs = new Map<string, OutsideLine[]>();
  for (const loop of loops) packs.set(loop.packId, [...(packs.get(loop.packId) ?? []), loop]);
  return packs;
}

/** @returns whether it could be asked for */
const askToTake = async (source: string, body: URLSearchParams): Promise<boolean> =>
  (await askOrTell(api.exchangeTakes(source), { method: 'post', body }, 'It could not be asked for. Please try again.')) !== null;

/** Asks for loops, pack by pack. @returns whether all could be asked for; what could not is told */
export async function takeLoops(source: string, loops: readonly OutsideLine[]): Promise<boolean> {
  for (const [packId, some] of byPack(loops)) {
    const form = new URLSearchParams({ packId });
    for (const { id } of some) form.append('loopId', id);
    if (!(await askToTake(source, form))) return false;
  }
  toast(loops.length === 1 ? `Taking “${loops[0].title}”.` : `Taking ${loops.length} loops.`);
  return true;
}

/** Asks for everything that a search finds there, page after page, but for what is here already. */
export async function takeFound(source: string, { words, category }: { words: string; category: string }, total: number): Promise<void> {
  if (await askToTake(source, new URLSearchParams({ words, category, all: '1' }))) toast(`Taking what is not here yet of ${total} loops.`);
}

/** Asks for all of a pack. */
export async function takePack(source: string, packId: string): Promise<void> {
  if (await askToTake(source, new URLSearchParams({ packId }))) toast('Taking the whole pack.');
}
