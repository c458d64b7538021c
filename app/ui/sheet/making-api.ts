import type { MakingLine, MakingsAsked, PackFor, Sheet } from '~contracts/making';
import { api } from '../api';
import { ask, withJson } from '../ask';

export interface OwnPack {
  readonly id: number;
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
}

const fetched = async <T>(address: string): Promise<T | null> => {
  const found = await ask<T>(address);
  return found.ok ? found.answer : null;
};

/** Packs of the group's own, the newest first. */
export const fetchOwnPacks = async (): Promise<readonly OwnPack[]> =>
  (await fetched<{ packs: readonly OwnPack[] }>(api.makings))?.packs ?? [];

/** Names that loops of a pack have already. */
export async function namesTaken(packId: number, names: readonly string[]): Promise<readonly string[]> {
  const query = new URLSearchParams([['packId', String(packId)], ...names.map((name) => ['name', name])]);
  return ((await fetched<{ sameNames: readonly { title: string }[] }>(`${api.makings}?${query.toString()}`))?.sameNames ?? []).map(
    ({ title }) => title,
  );
}

/** What became of some that were asked for. */
export const fetchMakings = async (ids: readonly number[]): Promise<readonly MakingLine[]> =>
  (await fetched<{ makings: readonly MakingLine[] }>(`${api.makings}?${ids.map((id) => `id=${id}`).join('&')}`))?.makings ?? [];

/** Tags that would suit what is made of some loops: theirs, what their sound says, and what the group uses most. */
export const fetchTags = async (loopIds: readonly number[]): Promise<readonly string[]> =>
  (await fetched<{ tags: readonly string[] }>(`${api.tags}?${loopIds.map((id) => `loop=${id}`).join('&')}`))?.tags ?? [];

/** Has loops made. @returns in words why not; null when they are on their way */
export async function makeLoops({ pack, makings }: MakingsAsked): Promise<string | null> {
  const trimmed = (text: string) => text.trim(),
    asked: MakingsAsked = {
      pack: { ...pack, name: trimmed(pack.name), vendor: trimmed(pack.vendor), licence: trimmed(pack.licence) },
      makings: makings.map(({ sheet, how }) => ({
        how,
        sheet: { ...sheet, name: trimmed(sheet.name), setName: trimmed(sheet.setName), chords: trimmed(sheet.chords) },
      })),
    };
  const sent = await ask(api.makings, withJson('post', asked), 'It could not be sent. Please try again.');
  return sent.ok ? null : sent.wrong;
}

/** Of a sheet on which nothing is said yet. */
export const unsaid: Omit<Sheet, 'name'> = {
  kind: 'loop',
  setName: '',
  setRole: null,
  instrument: null,
  genre: [],
  character: [],
  tags: [],
  landingSeconds: null,
  chords: '',
};

export const noPack: PackFor = { packId: null, name: '', vendor: '', licence: '' };
