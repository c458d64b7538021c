import { expect, request, type Page } from '@playwright/test';
import { comeIn, keeper, makeProject, rms, startTap, test, toDb } from './support';

const unique = Date.now().toString(36);

/** What an earlier run has taken is put away, so that it can be taken again: by a keeper, for others brought it in. */
async function putAway(words: string): Promise<void> {
  const asKeeper = await request.newContext({ baseURL: test.info().project.use.baseURL });
  await asKeeper.post('/sign-in', { form: { ...keeper }, maxRedirects: 0 });
  const { rows } = (await (await asKeeper.get(`/api/v1/loops?q=${encodeURIComponent(words)}`)).json()) as { rows: { id: number }[] };
  for (const { id } of rows) await asKeeper.put('/api/v1/loops/archived', { form: { loopId: String(id) } });
  await asKeeper.dispose();
}

/** Searches there, in the project that is in the room. */
async function search(page: Page, words: string): Promise<void> {
  await page.getByRole('link', { name: 'Exchange' }).click();
  await expect(page.getByRole('heading', { name: 'Exchange: Pebblebank' })).toBeVisible();
  await page.getByLabel('Words').fill(words);
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(page).toHaveURL(new RegExp(`q=${words.split(' ')[0]}`));
  await page.waitForSelector('html[data-ready=yes]');
}

test('from outside: searched, heard over the project, taken, placed, and credited in the export', async ({ page }) => {
  test.slow();
  await putAway('half-past walking');
  await comeIn(page);
  const id = await makeProject(page, `From outside ${unique}`, 110, '0m');
  await search(page, 'Half-Past walking');
  const row = page.getByRole('listitem').filter({ hasText: 'Half-Past Lantern walking bass' });
  await expect(row).toContainText('key fits');
  await startTap(page);
  await row.getByRole('button', { name: /^Hear/ }).click();
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 60_000 });
  await expect(page.getByRole('region', { name: 'Audition tray' })).toContainText('Maren Osterby on Pebblebank');
  // It can be heard: a second of it is far above silence.
  await page.waitForFunction(() => window.tapBlocks.length > 400);
  const level = await page.evaluate(() => window.tapBlocks.slice(-300).flatMap(({ samples }) => [...samples]));
  expect(toDb(rms(level))).toBeGreaterThan(-50);
  // What is outside still cannot be placed, and says so.
  await page.getByRole('region', { name: 'Audition tray' }).getByRole('button', { name: 'Place …' }).click();
  await expect(page.getByText('Take it into the library first')).toBeVisible();
  // Without a key it is refused in words.
  await row.getByRole('button', { name: /^Take Half/ }).click();
  await expect(page.getByText('needs your key')).toBeVisible();
  const keyPage = await page.request.get(
      (await page.getByRole('link', { name: 'Get one there' }).getAttribute('href')) + `?member=${unique}`,
    ),
    [key] = /pebble-[0-9a-f]{20}/.exec(await keyPage.text()) ?? [''];
  await page.getByLabel('Key for Pebblebank').fill(key);
  await page.locator('#page').getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('button', { name: 'Take the key away' })).toBeVisible();
  await row.getByRole('button', { name: /^Take Half/ }).click();
  await row.getByRole('link', { name: 'in the library' }).click({ timeout: 60_000 });
  await expect(page.getByRole('link', { name: 'its page on Pebblebank' })).toBeVisible();
  // Placed, and its credit in the export.
  await page.locator('#page').getByRole('button', { name: 'Place …' }).click();
  await page
    .getByRole('dialog', { name: /^Place/ })
    .getByRole('button', { name: 'Place', exact: true })
    .click();
  await page.waitForFunction(() => {
    const { save, project } = window.garnetfinch.projectStore.store.getState();
    return save === 'saved' && (project as { tracks: { clips: unknown[] }[] } | null)?.tracks.some(({ clips }) => clips.length > 0);
  });
  await page.goto(`/projects/${id}`);
  await page.waitForSelector('[data-clip]');
  await page.getByRole('button', { name: 'Export WAV' }).click();
  const credits = page.getByRole('link', { name: 'what was used' });
  await expect(credits).toBeVisible({ timeout: 90_000 });
  const text = await (await page.request.get((await credits.getAttribute('href')) ?? '')).text();
  expect(text).toContain('author:  Maren Osterby');
  expect(text).toMatch(/page: {4}http.*half-past-lantern-08/);
});

// Alone: the next answers of the service fail, whoever asks for them.
test('trouble outside is told, and trying again is one press', { tag: '@alone' }, async ({ page }) => {
  await comeIn(page);
  await makeProject(page, `Trouble ${unique}`, 100);
  await search(page, 'nylon');
  await expect(page.getByRole('listitem').filter({ hasText: 'nylon' }).first()).toBeVisible();
  const control = `http://127.0.0.1:${Number(new URL(page.url()).port) + 80}/control`;
  await page.request.post(control, { data: { failNext: 4 } });
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'does not answer' })).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'nylon' }).first()).toBeVisible();
});
