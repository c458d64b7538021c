import { expect, type Page } from '@playwright/test';
import type { Edit } from '../../core/arrangement/edit';
import { newClip, newTrack, trackColourCount, type Clip } from '../../core/arrangement/tree';
import { makeProject, visit, waitForFits } from './support';

interface Seen {
  readonly id: string;
  readonly name: string;
  readonly clips: readonly Clip[];
}

export const tracksOf = (page: Page): Promise<Seen[]> =>
    page.evaluate(() => (window.garnetfinch.projectStore.store.getState().project as { tracks: Seen[] }).tracks),
  /** Where clips lie, in bars from 1: `1–4`. */
  barsOf = async (page: Page, at: number): Promise<string[]> =>
    [...((await tracksOf(page))[at]?.clips ?? [])]
      .sort((a, b) => a.startBeat - b.startBeat)
      .map(({ startBeat, lengthBeats }) => `${startBeat / 4 + 1}–${(startBeat + lengthBeats) / 4}`),
  saved = (page: Page) => page.waitForFunction(() => window.garnetfinch.projectStore.store.getState().save === 'saved');

/** Edits a project through the page, as one step. */
export async function editBy(page: Page, edits: readonly Edit[]): Promise<void> {
  expect(await page.evaluate((all) => window.garnetfinch.projectStore.edit({ kind: 'batch', edits: all }), edits as never)).toBeNull();
  await saved(page);
}

/** The first loop that a search finds, by title. */
export async function loopFor(page: Page, words: string): Promise<{ id: number; title: string }> {
  const answer = await page.request.get(`/api/v1/loops?q=${encodeURIComponent(words)}&limit=1&sort=title&dir=asc&in=none`),
    [row] = ((await answer.json()) as { rows: { id: number; title: string }[] }).rows;
  return row;
}

/** A project with sections of 8 and 8 bars and the demo's loops, one a track, from bar 1 for some bars. */
export async function pieceOf(
  page: Page,
  name: string,
  loops: readonly (readonly [words: string, bars: number])[],
  { tempoBpm = 124, sectionBars = [8, 8] }: { tempoBpm?: number; sectionBars?: readonly number[] } = {},
): Promise<number> {
  const id = await makeProject(page, name, tempoBpm, 'none'),
    edits: Edit[] = [];
  for (const [index, [words, length]] of loops.entries()) {
    const { id: loopId, title } = await loopFor(page, words),
      clips = length > 0 ? [newClip({ id: `clip-${index}`, loopId, startBeat: 0, lengthBeats: length * 4 })] : [];
    edits.push({
      kind: 'add-track',
      index,
      track: newTrack({ id: `track-${index}`, name: title, colour: index % trackColourCount, clips }),
    });
  }
  let startBeat = 0;
  for (const [k, bars] of sectionBars.entries()) {
    const section = {
      kind: 'section' as const,
      id: `section-${k}`,
      name: ['Opening', 'Main', 'Break', 'Out'][k % 4],
      startBeat,
      lengthBeats: bars * 4,
    };
    edits.push({ kind: 'add-section', section });
    startBeat += bars * 4;
  }
  await visit(page, `/projects/${id}`);
  await editBy(page, edits);
  // The loops that came in by their numbers alone are fetched with the page.
  await page.reload();
  await page.waitForSelector('[data-clip]');
  await waitForFits(page);
  return id;
}
