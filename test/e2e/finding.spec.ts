import { expect, type Page } from '@playwright/test';
import { beatWav, bringIn } from './brought';
import { comeIn, makeProject, openProject, rms, startTap, test, toDb, visit, wavOf } from './support';

const list = (page: Page) => page.locator('[data-loop-list]'),
  rows = (page: Page) => list(page).locator('[role=row]'),
  total = async (page: Page): Promise<number> =>
    Number((await page.locator('[role=search] output strong').textContent())?.replace(/\D/g, '')),
  settled = async (page: Page, least: number, most: number) => {
    await expect.poll(() => total(page)).toBeLessThanOrEqual(most);
    await expect.poll(() => total(page)).toBeGreaterThanOrEqual(least);
  };

/** That what is under the cursor sounds, by its title, and is no silence. */
async function isHeard(page: Page, title: RegExp): Promise<string> {
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 60_000 });
  const heard = await page.evaluate(
    () => (window.garnetfinch.engine.store.getState().candidate?.row as unknown as { title: string }).title,
  );
  expect(heard).toMatch(title);
  const from = await page.evaluate(() => window.tapBlocks.length);
  await page.waitForFunction((count) => window.tapBlocks.length > count + 350, from);
  const level = await page.evaluate((count) => window.tapBlocks.slice(count).flatMap(({ samples }) => [...samples]), from);
  expect(toDb(rms(level))).toBeGreaterThan(-55);
  return heard;
}

test('narrowed step by step by tempo, key, family and instrument; heard; each step taken back by one key', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await visit(page, '/?in=none');
  const query = page.locator('[data-query]'),
    // What was asked before each step, and how many were left after it: other tests bring loops in meanwhile, so that it is never quite as many again.
    steps: { readonly asked: string; readonly left: number }[] = [];
  const step = async (act: () => Promise<unknown>) => {
    const asked = await query.inputValue(),
      before = await total(page);
    await act();
    await expect.poll(() => total(page)).toBeLessThan(before);
    steps.push({ asked, left: await total(page) });
  };
  await step(() => query.fill('90-100'));
  await step(() => page.getByRole('button', { name: /^F minor,/ }).click());
  await step(() => page.getByRole('button', { name: /^Keys \d/ }).click());
  await step(() => page.getByLabel('Narrow by instrument').selectOption('electric-piano'));
  expect(steps.at(-1)?.left).toBeGreaterThan(0);
  await startTap(page);
  await list(page).focus();
  await page.keyboard.press('ArrowDown');
  await isHeard(page, /./);
  for (const { asked, left } of steps.reverse()) {
    await list(page).focus();
    await page.keyboard.press('Backspace');
    await expect(query).toHaveValue(asked);
    await expect.poll(() => total(page)).toBeGreaterThan(left);
  }
});

test('instrument, genre and character in one line, ordered by key, turned round and moved by keys', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/?in=none');
  await page.locator('[data-query]').fill('family:bass character:clean');
  await settled(page, 1, 60);
  await page.getByRole('button', { name: /^Sort by Key/ }).click();
  await expect(page).toHaveURL(/sort=key/);
  const keys = await rows(page).evaluateAll((all) => all.slice(0, 6).map((row) => row.querySelectorAll('[role=gridcell]')[4]?.textContent));
  expect(keys.length).toBeGreaterThan(1);
  // What has no single key stands behind what has one.
  expect(keys.findIndex((key) => /unpitched|single|unknown/.test(key ?? ''))).not.toBe(0);
  const chip = page.getByRole('button', { name: 'Take away: sounds clean' });
  await chip.focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.locator('[data-query]')).toHaveValue('character:clean family:bass');
  const found = await total(page);
  await page.getByRole('button', { name: 'Take away: sounds clean' }).focus();
  await page.keyboard.press('n');
  await expect(page.locator('[data-query]')).toHaveValue('-character:clean family:bass');
  await expect.poll(() => total(page)).not.toBe(found);
  await page.getByRole('button', { name: 'Take away: not sounds clean' }).focus();
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-query]')).toHaveValue('family:bass');
});

test('a shaker that is looser than this one, heard over the project; and more like it', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await makeProject(page, `Looser ${Date.now()}`, 110, '0m');
  await visit(page, '/?q=shaker&sort=title&dir=asc');
  await expect(rows(page).first()).toBeVisible();
  const ways = ['looser', 'tighter', 'busier', 'brighter'];
  let found = 0;
  for (const way of ways) {
    await visit(page, '/?q=instrument:shaker&sort=title&dir=asc');
    await rows(page)
      .filter({ hasText: 'Shaker A' })
      .first()
      .getByRole('button', { name: /^More for/ })
      .click();
    await page.getByRole('menuitem', { name: way }).click();
    await expect(page.getByText(new RegExp(`^${way[0].toUpperCase()}${way.slice(1)} than`))).toBeVisible();
    found = await total(page);
    if (found > 0) break;
  }
  expect(found).toBeGreaterThan(0);
  await startTap(page);
  await list(page).focus();
  await page.keyboard.press('ArrowDown');
  await isHeard(page, /shak/i);
  await page.keyboard.press('l');
  await expect(page.getByText(/^More like/)).toBeVisible();
  // The first of those like a shaker is one, or of its kin.
  await expect(rows(page).first()).toContainText(/Shak|shaker|Tambourine|Hats/i);
});

/** Narrows the list to the set of the loop that it shows by this title. */
async function showSetOf(page: Page, title: string): Promise<void> {
  await rows(page)
    .filter({ hasText: title })
    .getByRole('button', { name: /^More for/ })
    .click();
  await page.getByRole('menuitem', { name: 'Its set' }).click();
  // The address is there before the list is.
  await expect(page.getByRole('button', { name: 'Take away: of one set' })).toBeVisible();
}

test('a set’s parts are shown together and heard one after the other, and laid in order', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const name = `In order ${Date.now()}`,
    id = await makeProject(page, name, 96, 'none');
  await visit(page, '/?q=lantern+walk&sort=title&dir=asc');
  await showSetOf(page, 'Lantern Walk A1');
  const titles = await rows(page).evaluateAll((all) => all.map((row) => row.querySelector('a')?.textContent ?? ''));
  expect(titles.length).toBeGreaterThan(2);
  await startTap(page);
  await list(page).focus();
  await page.keyboard.press('ArrowDown');
  // The first or the second, as the cursor stood on one already or not.
  const heard = titles.indexOf(await isHeard(page, new RegExp(titles.join('|'))));
  await page.keyboard.press('.');
  await page.waitForFunction(
    (title) => (window.garnetfinch.engine.store.getState().candidate?.row as unknown as { title: string } | undefined)?.title === title,
    titles[heard + 1],
    { timeout: 60_000 },
  );
  for (let k = 0; k < 2; k++) {
    await list(page).focus();
    await rows(page)
      .nth(k)
      .getByRole('button', { name: /^More for/ })
      .click();
    await page.getByRole('menuitem', { name: /^Place/ }).click();
    const dialog = page.getByRole('dialog', { name: /^Place/ });
    await dialog.getByRole('button', { name: 'Place', exact: true }).click();
    await expect(dialog).toBeHidden();
    await page.waitForFunction((count) => {
      const { save, project } = window.garnetfinch.projectStore.store.getState();
      return save === 'saved' && (project as { tracks: { clips: unknown[] }[] }).tracks.flatMap(({ clips }) => clips).length === count;
    }, k + 1);
  }
  await openProject(page, name);
  await expect(page.locator('[data-clip]')).toHaveCount(2);
  // Their place in the piece is told on the loop's page.
  await visit(page, `/?q=lantern+walk&sort=title&dir=asc&in=${id}`);
  await rows(page).filter({ hasText: 'Lantern Walk A1' }).getByRole('link').click();
  await expect(page.locator('section').filter({ hasText: 'Used in' })).toContainText(/bars \d/);
});

test('after work in one set, “shaker” is looked for in the whole library; kept, found again, taken as a collection', async ({ page }) => {
  await comeIn(page);
  const unique = Date.now().toString(36);
  await visit(page, '/?q=lantern+walk');
  await showSetOf(page, 'Lantern Walk A1');
  await page.getByRole('button', { name: 'clear all' }).click();
  await page.locator('[data-query]').fill('shkaer');
  await expect(page.getByText(/also “shaker”/)).toBeVisible();
  await expect(rows(page).first()).toContainText(/shak/i);
  await page.locator('[data-query]').fill('shaker');
  await expect(page).toHaveURL(/q=shaker/);
  const found = await total(page);
  await page.getByRole('button', { name: 'Searches, kept and recent' }).click();
  await page.getByLabel('Name of this search').fill(`Shakers ${unique}`);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('link', { name: `Shakers ${unique}` }).first()).toBeVisible();
  await page.getByRole('button', { name: `Pin Shakers ${unique}` }).click();
  await expect(page.getByRole('button', { name: `Pin Shakers ${unique}` })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('Name of this search').fill(`All shakers ${unique}`);
  await page.getByRole('button', { name: 'As a collection' }).click();
  await page.keyboard.press('Escape');
  await visit(page, '/');
  await page.getByRole('link', { name: `Shakers ${unique}` }).click();
  // A few more, where other tests brought some in.
  await settled(page, found, found + 20);
  await visit(page, '/collections');
  await page.getByRole('link', { name: `All shakers ${unique}` }).click();
  await settled(page, found, found + 20);
  // What was made here is put away again.
  await visit(page, '/collections');
  await page.getByRole('button', { name: `Put All shakers ${unique} away` }).click();
  await expect(page.getByRole('link', { name: `All shakers ${unique}` })).toHaveCount(0);
});

test('the map, groups, taps, a sound of one’s own, stars and a note', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await makeProject(page, `Map ${Date.now()}`, 110, '0m');
  await visit(page, '/');
  await page.getByRole('radio', { name: 'Map' }).click();
  const map = page.getByRole('application', { name: /^Map of the result/ });
  await expect(map).toBeVisible();
  await startTap(page);
  await map.focus();
  await page.keyboard.press('ArrowRight');
  await isHeard(page, /./);
  const all = await total(page);
  await page.keyboard.press('n');
  await expect.poll(() => total(page)).toBeLessThan(all);
  const few = await total(page);
  await page.keyboard.press('Backspace');
  // Not as many as before: other tests bring loops in meanwhile.
  await expect.poll(() => total(page)).toBeGreaterThan(few);
  await page.getByRole('radio', { name: 'By pack' }).click();
  await page.getByRole('button', { name: /Galley Percussion/ }).click();
  await expect(rows(page).first()).toBeVisible();
  await page.getByRole('radio', { name: 'List', exact: true }).click();
  // Tapped on the pad: four even taps.
  await page.getByRole('button', { name: 'Tap a rhythm to look for' }).click();
  const pad = page.getByRole('button', { name: 'tap here' });
  await pad.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Find what plays like it' }).click();
  await expect(page.getByText('Plays like 5 taps')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'all loops again' }).click();
  // A click track of one's own finds what is struck.
  await page.getByRole('button', { name: 'Like a sound of your own' }).click();
  const beat = wavOf(2, (t) => {
    const since = t % 0.25;
    return 0.6 * Math.exp(-since / 0.012) * (Math.sin(t * 91_733) * Math.cos(t * 53_219));
  });
  await page.getByLabel('A sound to look for').setInputFiles({ name: 'my clicks.wav', mimeType: 'audio/wav', buffer: Buffer.from(beat) });
  await expect(page.getByText('More like my clicks.wav')).toBeVisible({ timeout: 60_000 });
  await expect(rows(page).first()).toContainText(/P|D/);
  await page.keyboard.press('Escape');
  // Stars by keys, a note by the menu; both are found.
  await visit(page, '/?q=instrument:shaker&sort=title&dir=asc');
  await list(page).focus();
  await page.keyboard.press('Alt+4');
  await expect(rows(page).first().getByLabel('4 of 5 stars')).toBeVisible();
  await rows(page)
    .first()
    .getByRole('button', { name: /^More for/ })
    .click();
  await page.getByRole('menuitem', { name: /Write a note/ }).click();
  await page.getByLabel('Note', { exact: true }).fill('for the ferry');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
  await expect(rows(page).first()).toContainText('for the ferry');
  await visit(page, '/?q=rated:4');
  await expect.poll(() => total(page)).toBe(1);
});

test('what is said of a loop while another list is on its way is still there when it arrives', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/?q=instrument:tambourine&sort=title&dir=asc');
  const title = (await rows(page).first().getByRole('link').first().textContent()) as string,
    row = rows(page).filter({ has: page.getByRole('link', { name: title, exact: true }) });
  let hasSetOut = () => {},
    mayArrive = () => {};
  const setOut = new Promise<void>((done) => (hasSetOut = done)),
    arrives = new Promise<void>((done) => (mayArrive = done));
  // The list in another order, as it was before anything was said.
  await page.route(/_?\.data\?.*dir=desc/, async (route) => {
    const response = await route.fetch();
    hasSetOut();
    await arrives;
    await route.fulfill({ response });
  });
  await page.getByRole('button', { name: /^Sort by Title/ }).click();
  await setOut;
  const kept = page.waitForResponse((response) => response.url().includes('/rating') && response.ok());
  await list(page).focus();
  await page.keyboard.press('Alt+3');
  await expect(row.getByLabel('3 of 5 stars')).toBeVisible();
  await kept;
  mayArrive();
  await expect(page).toHaveURL(/dir=desc/);
  await expect(row.getByLabel('3 of 5 stars')).toBeVisible();
});

test('who is in the list already when what was typed last arrives stays at the loop that is heard', async ({ page }) => {
  await comeIn(page);
  const stamp = `v${Date.now().toString(36)}`;
  await bringIn(
    page,
    `Stones ${stamp}`,
    ['Agate', 'Basalt', 'Chert'].map((stone, k) => ({ path: `${stamp} ${stone}.wav`, bytes: beatWav(90 + 7 * k, 4, 300 + 50 * k) })),
  );
  await visit(page, `/?q=${stamp}&sort=title&dir=asc`);
  await expect(rows(page)).toHaveCount(3);
  let mayArrive = () => {};
  const arrives = new Promise<void>((done) => (mayArrive = done));
  await page.route(/_?\.data\?.*basalt/i, async (route) => {
    await arrives;
    await route.continue();
  });
  await page.locator('[data-query]').fill(`${stamp} basalt`);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(list(page)).toHaveAttribute('aria-activedescendant', 'loop-1');
  mayArrive();
  await expect(rows(page)).toHaveCount(1);
  await expect(list(page)).toHaveAttribute('aria-activedescendant', 'loop-0');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('Basalt');
  // What is looked for from elsewhere begins at none.
  await page.keyboard.press('Escape');
  await page.unrouteAll();
  await page.locator('[data-query]').fill(stamp);
  await expect(rows(page)).toHaveCount(3);
  await expect(list(page)).not.toHaveAttribute('aria-activedescendant', /./);
});

test('what comes in above leaves the cursor on its loop: a key is for the one that was chosen', async ({ page }) => {
  await comeIn(page);
  const stamp = `w${Date.now().toString(36)}`,
    sent = (tree: string, k: number) => ({ path: `${stamp} ${tree}.wav`, bytes: beatWav(90 + 7 * k, 4, 300 + 50 * k) });
  await bringIn(page, `Trees ${stamp}`, ['Birch', 'Cedar', 'Dogwood'].map(sent));
  await visit(page, `/?q=${stamp}&sort=title&dir=asc`);
  await expect(rows(page)).toHaveCount(3);
  await list(page).focus();
  await page.keyboard.press('ArrowDown');
  await expect(list(page)).toHaveAttribute('aria-activedescendant', 'loop-1');
  await expect(page.locator('#loop-1')).toContainText('Cedar');
  await page.keyboard.press('x');
  await expect(page.getByRole('toolbar', { name: 'Chosen loops' })).toContainText('1 chosen');
  // Somebody brings another one in, and the page is told.
  await bringIn(page, `More trees ${stamp}`, [sent('Alder', 4)]);
  await expect(rows(page)).toHaveCount(4);
  await expect(list(page)).toHaveAttribute('aria-activedescendant', 'loop-2');
  await expect(page.locator('#loop-2')).toContainText('Cedar');
  await page.keyboard.press('Alt+5');
  await expect(rows(page).filter({ hasText: 'Cedar' }).getByLabel('5 of 5 stars')).toBeVisible();
  // What is chosen on from there begins with it too.
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.locator('[aria-selected=true]')).toContainText(['Cedar', 'Dogwood']);
});
