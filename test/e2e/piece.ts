import { expect, type Page } from '@playwright/test';
import type { Edit } from '../../core/arrangement/edit';
import { newClip, newTrack, trackColourCount, type Clip } from '../../core/arrangement/tree';
import { createProject, originOf, readTap, rms, toDb, visit, waitForFits, waitForFrame } from './support';

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

/** The loop that is called so, as the demo has it; without one, the first that a search finds by title. Other tests make loops of it, which say so. */
export async function loopFor(page: Page, words: string): Promise<{ id: number; title: string; packId: number }> {
  const answer = await page.request.get(`/api/v1/loops?q=${encodeURIComponent(words)}&limit=20&sort=title&dir=asc&in=none`),
    { rows } = (await answer.json()) as { rows: { id: number; title: string; packId: number }[] };
  return rows.find(({ title }) => title === words) ?? rows[0];
}

/** Makes a project, lays into it what these edits say, and opens its page. Returns its number. */
export async function layPiece(
  page: Page,
  { name, tempoBpm, key }: { readonly name: string; readonly tempoBpm: number; readonly key?: string },
  edits: readonly Edit[],
): Promise<number> {
  const id = await createProject(page, name, tempoBpm, key),
    answer = await page.request.post(`/api/v1/projects/${id}/edits`, {
      data: { revision: 0, steps: [{ stepId: `laid-${id}`, edit: { kind: 'batch', edits } }] },
    });
  expect(answer.status(), await answer.text()).toBe(200);
  await visit(page, `/projects/${id}`);
  await page.waitForSelector('[data-clip]');
  return id;
}

/** A project with sections of 8 and 8 bars and the demo's loops, one a track, from bar 1 for some bars. */
export async function pieceOf(
  page: Page,
  name: string,
  loops: readonly (readonly [words: string, bars: number])[],
  { tempoBpm = 124, sectionBars = [8, 8] }: { tempoBpm?: number; sectionBars?: readonly number[] } = {},
): Promise<number> {
  const edits: Edit[] = [];
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
  return layPiece(page, { name, tempoBpm }, edits);
}

/** Plays from a beat on, and gives what was heard: left and right, from that beat's frame. */
export async function playFrom(page: Page, fromBeat: number, beats: number, tempoBpm: number): Promise<[Float32Array, Float32Array]> {
  await waitForFits(page);
  await page.evaluate((beat) => {
    const engine = window.garnetfinch.engine as unknown as { seek(beat: number): void; setRange(range: object | null): void };
    window.tapBlocks.length = 0;
    engine.setRange(null);
    engine.seek(beat);
  }, fromBeat);
  await page.evaluate(() => window.garnetfinch.engine.play());
  const { originFrame } = await originOf(page),
    until = originFrame + Math.round((beats * 60 * 44100) / tempoBpm);
  await waitForFrame(page, until + 4000);
  const heard = await readTap(page, originFrame, until);
  await page.evaluate(() => window.garnetfinch.engine.stop());
  return heard;
}

/** The level of each of so many stretches of a sound, in dB. */
export const levelsOf = (samples: Float32Array, stretches: number): number[] =>
  Array.from({ length: stretches }, (_, k) =>
    toDb(rms(samples, Math.round((k * samples.length) / stretches), Math.round(((k + 1) * samples.length) / stretches))),
  );

/** Lets go of what has the focus, and takes the clip that begins at a bar of a track. */
export async function takeClip(page: Page, track: number, bar: number): Promise<void> {
  const id = (await tracksOf(page))[track].clips.find(({ startBeat }) => Math.abs(startBeat - (bar - 1) * 4) < 1e-6)?.id;
  if (id === undefined) throw new Error(`no clip begins at bar ${bar}`);
  // Not by Escape: on the bar numbers it lets go of the range.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.locator(`[data-clip="${id}"]`).focus();
  await expect(page.locator(`[data-clip="${id}"]`)).toHaveAttribute('aria-pressed', 'true');
}

/** Puts the playhead on a bar by the ruler. */
export const goToBar = (page: Page, bar: number): Promise<void> =>
  page.evaluate((beat) => (window.garnetfinch.engine as unknown as { seek(beat: number): void }).seek(beat), (bar - 1) * 4);

/** Chooses a range of bars by dragging along the bar numbers. */
export async function dragRange(page: Page, fromBar: number, toBar: number): Promise<void> {
  await page.getByRole('button', { name: 'Zoom to all' }).click();
  const ruler = page.locator('[data-ruler]'),
    box = await ruler.boundingBox(),
    pixels = await page.evaluate(() => {
      const lane = document.querySelector<HTMLElement>('[data-lane]'),
        clip = document.querySelector<HTMLElement>('[data-clip]'),
        { tracks } = window.garnetfinch.projectStore.store.getState().project as {
          tracks: { clips: { id: string; lengthBeats: number }[] }[];
        },
        lengthBeats = tracks.flatMap(({ clips }) => clips).find(({ id }) => id === clip?.dataset.clip)?.lengthBeats ?? 1;
      return lane && clip ? (clip.getBoundingClientRect().width + 1) / lengthBeats : 0;
    });
  if (!box || pixels === 0) throw new Error('no timeline');
  const at = (bar: number) => box.x + (bar - 1) * 4 * pixels;
  await page.mouse.move(at(fromBar) + 1, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(at(toBar) - 20, box.y + 30);
  await page.mouse.move(at(toBar) + 1, box.y + 30);
  await page.mouse.up();
}
