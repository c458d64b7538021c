import { newClip, newTrack } from '../../core/arrangement/tree';
import { expect, type Page } from '@playwright/test';
import { type LoopSource } from '../../core/arrangement/fit-request';
import {
  comeIn,
  makeProject,
  openProject,
  rateHz,
  readTap,
  rms,
  startTap,
  test,
  visit,
  waitForFits,
  waitForFrame,
  wholeRows,
} from './support';

const candidate = (page: Page) => page.evaluate(() => window.garnetfinch.engine.store.getState().candidate);
const sounding = (page: Page) =>
  page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });

/** What a search finds, whole, as it is heard. */
async function rowsOf(page: Page, query: string): Promise<{ id: number; title: string; source: LoopSource }[]> {
  return (await wholeRows(page.request, query)) as { id: number; title: string; source: LoopSource }[];
}

test('the shortlist by keys: kept, switched by digits, blind, placed with what was tried', { tag: '@alone' }, async ({ page }) => {
  await comeIn(page);
  await openProject(page, 'Engine Room');
  await visit(page, '/?family=bass&kind=loop&bars=4');
  await page.keyboard.press('Space');
  await waitForFits(page);
  await page.locator('[data-loop-list]').focus();
  const titles: string[] = [];
  for (let n = 0; n < 3; n++) {
    await page.keyboard.press('ArrowDown');
    await sounding(page);
    titles.push(((await candidate(page)) as unknown as { row: { title: string } }).row.title);
    await page.keyboard.press('k');
  }
  const shortlist = page.getByRole('group', { name: 'Shortlist' });
  await expect(shortlist.getByRole('listitem')).toHaveCount(3);
  await page.keyboard.press('1');
  await expect(page.getByRole('region', { name: 'Audition tray' }).getByRole('link', { name: titles[0] })).toBeVisible();
  await page.keyboard.press('b');
  await page.keyboard.press('2');
  await sounding(page);
  const tray = page.getByRole('region', { name: 'Audition tray' });
  await expect(tray.getByText('Number 2 is sounding')).toBeVisible();
  for (const title of new Set(titles)) await expect(tray.getByText(title, { exact: true })).toHaveCount(0);
  await page.keyboard.press('b');
  await page.keyboard.press('2');
  await sounding(page);
  await tray.getByRole('button', { name: 'Up a semitone' }).click();
  await tray.getByRole('button', { name: 'backwards' }).click();
  await tray.getByLabel('Bars', { exact: true }).selectOption('1');
  await sounding(page);
  await tray.getByRole('button', { name: 'Place, drop the rest' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Placed “/)).toBeVisible();
  const clip = await page.evaluate(() => {
    const { tracks } = window.garnetfinch.projectStore.store.getState().project as {
      tracks: { clips: { shiftSemitones: number; overrides?: object }[] }[];
    };
    return tracks.at(-1)?.clips[0];
  });
  expect(clip).toMatchObject({ shiftSemitones: 1, overrides: { reverse: true, firstBars: 1 } });
  await expect(shortlist).toHaveCount(0);
  await page.keyboard.press('Control+z');
});

test('instead of a track: that track is silent while a candidate is judged, and back after it', { tag: '@alone' }, async ({ page }) => {
  await comeIn(page);
  await makeProject(page, `Instead ${Date.now()}`, 124);
  const [row] = await rowsOf(page, 'family=drums&kind=loop'),
    trackId = 'only',
    clips = [newClip({ id: 'c', loopId: row.id, startBeat: 0, lengthBeats: 256 })],
    track = newTrack({ id: trackId, name: 'Only', clips });
  // One track that plays on and on; a candidate so soft that what is heard is the track or nothing.
  await page.evaluate(
    ([loop, id, track]) => {
      window.garnetfinch.projectStore.edit({ kind: 'add-track', index: 0, track }, [loop]);
      window.garnetfinch.engine.audition.setSettings({ heardWith: { withoutTrackId: id }, gainDb: -60, startOn: 'now' });
    },
    [row, trackId, track] as const,
  );
  await startTap(page);
  await waitForFits(page);
  await page.evaluate(() => window.garnetfinch.engine.play());
  const now = () => page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100)),
    levelOfNextSecond = async () => {
      const from = (await now()) + rateHz / 4;
      await waitForFrame(page, from + rateHz + 4000);
      return rms((await readTap(page, from, from + rateHz))[0]);
    },
    before = await levelOfNextSecond();
  await page.evaluate((wanted) => window.garnetfinch.engine.audition.start(wanted), row);
  await sounding(page);
  const judged = await levelOfNextSecond();
  expect(await candidate(page)).not.toBeNull();
  await page.evaluate(() => (window.garnetfinch.engine.audition as unknown as { stop(): void }).stop());
  const after = await levelOfNextSecond();
  expect(before).toBeGreaterThan(0.005);
  expect(judged).toBeLessThan(before * 0.02);
  expect(after).toBeGreaterThan(before * 0.5);
});

test('hands-free walks the list, bars each; Space keeps, another key skips, Escape ends', { tag: '@alone' }, async ({ page }) => {
  test.slow();
  await comeIn(page);
  await makeProject(page, 'Sofa', 240);
  await visit(page, '/?kind=loop&family=percussion');
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate !== null);
  const first = ((await candidate(page)) as unknown as { row: { id: number } } | null)?.row.id;
  await page.keyboard.press('k');
  // How long each is heard is chosen before; that begins nothing.
  const bars = page.getByLabel('Bars each, hands-free'),
    ends = page.getByRole('button', { name: 'End hands-free' });
  await bars.selectOption('2');
  await expect(ends).toHaveCount(0);
  await page.getByRole('button', { name: 'Walk through the list by itself' }).click();
  await expect(ends).toBeVisible();
  await expect(bars).toHaveValue('2');
  await page.waitForFunction((id) => window.garnetfinch.engine.store.getState().candidate?.row.id !== id, first, { timeout: 40_000 });
  await sounding(page);
  await page.keyboard.press(' ');
  await expect(page.getByText('Kept.')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Shortlist' }).getByRole('listitem')).toHaveCount(2);
  const before = ((await candidate(page)) as unknown as { row: { id: number } }).row.id;
  await page.keyboard.press('x');
  await page.waitForFunction((id) => window.garnetfinch.engine.store.getState().candidate?.row.id !== id, before, { timeout: 10_000 });
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Walk through the list by itself' })).toBeVisible();
  await page.evaluate(() => window.garnetfinch.engine.stop());
});
