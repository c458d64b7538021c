import { expect, type Page } from '@playwright/test';
import { parseWav } from '../../core/formats/wav/parse';
import { mixdownOf } from './mixdown';
import { loopFor } from './piece';
import { accounts, comeIn, makeProject, signIn, test, visit, waitForFits } from './support';
/** Rows of the library's list. */
const loopRows = (page: Page) => page.getByRole('grid').getByRole('row');
const unique = Date.now().toString(36);

test('narrowing the library: words, charts, chips, sorting, and the address holds it all', async ({ page }) => {
  await signIn(page);
  const total = page.getByRole('search').locator('output');
  await page.keyboard.press('/');
  await page.keyboard.type('nylon');
  await expect(page).toHaveURL(/q=nylon/);
  await expect(total).not.toContainText('256');
  await page.getByRole('button', { name: /F minor, \d+ loops/ }).click();
  await expect(page).toHaveURL(/key=5m/);
  await expect(page.getByRole('button', { name: 'Take away: in F minor' })).toBeVisible();
  await page.reload();
  await expect(loopRows(page).first()).toContainText('Nylon');
  await page.getByRole('button', { name: 'Take away: in F minor' }).click();
  await expect(page).not.toHaveURL(/key=/);
  await page.getByRole('button', { name: 'clear all' }).click();
  await expect(page).not.toHaveURL(/q=/);
  await page.getByRole('button', { name: /^Sort by Tempo/ }).click();
  await expect(page).toHaveURL(/sort=tempo&dir=asc/);
  const tempo = page.getByRole('slider', { name: /Tempo range/ });
  const box = await tempo.boundingBox();
  if (!box) throw new Error('no chart');
  await page.mouse.move(box.x + box.width * 0.485, box.y + 40);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.54, box.y + 40, { steps: 4 });
  await page.mouse.up();
  await expect(page).toHaveURL(/tempo=9\d-10\d/);
  await page.getByRole('button', { name: 'favourites', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Take away: my favourites' })).toBeVisible();
});

test('the whole slice by keyboard alone: sign in, search, audition, place, tempo, key, export', async ({ page }) => {
  await page.goto('/sign-in');
  await page.keyboard.press('Tab');
  await page.keyboard.type(accounts[1].name);
  await page.keyboard.press('Tab');
  await page.keyboard.type(accounts[1].password);
  await page.keyboard.press('Enter');
  await page.waitForSelector('html[data-ready=yes]');
  await makeProject(page, `By hand ${unique}`, 120, '2m');
  await page.keyboard.press('/');
  await page.keyboard.type('fingered 124');
  await expect(loopRows(page).first()).toContainText('Fingered');
  await page.keyboard.press('ArrowDown'); // into the list
  await page.keyboard.press('Space'); // the project plays
  await expect(page.getByRole('button', { name: 'Stop the project' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  const tray = page.getByRole('region', { name: 'Audition tray' });
  // On a busy machine it comes in a line late, and says so.
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 60_000 });
  await expect(tray).toContainText('−3.2 %, same pitch');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('The loop gives way: −3.2 %');
  await tabTo(page, 'At bar');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('1');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  // To the project's page, by its link in the ribbon.
  await tabTo(page, `By hand ${unique}`);
  await page.keyboard.press('Enter');
  const clip = page.locator('[data-clip]');
  await expect(clip).toHaveCount(1);
  await tabTo(page, 'Tempo');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('100');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Project', exact: true })).toContainText('100 · D minor');
  await tabTo(page, 'bars 1 to');
  await page.keyboard.press('ArrowRight');
  await expect(clip).toHaveAttribute('aria-label', /bars 2 to 9/);
  await page.keyboard.press('Shift+ArrowRight');
  await expect(clip).toHaveAttribute('aria-label', /bars 2 to 10/);
  await page.keyboard.press('Control+d');
  await expect(clip).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(clip).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(clip).toHaveCount(2);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await tabTo(page, 'Export WAV');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-export-state=done]')).toBeVisible({ timeout: 60_000 });
  const id = await page.locator('[data-export-id]').getAttribute('data-export-id');
  const wav = parseWav(new Uint8Array(await (await page.request.get(`/media/export/${id}`)).body()));
  expect(wav.sampleRateHz).toBe(44100);
  // Two clips of 9 bars from bar 2 at 100: until bar 20.
  expect(wav.channels[0].length / 44100).toBeCloseTo((19 * 240) / 100, 1);
  expect(await (await page.request.get(`/media/export/${id}?what=credits`)).text()).toMatch(
    /Low Lantern Basses[\s\S]*Royalty-free, cleared for broadcast/,
  );
});

/** Presses Tab until the focused thing is called so. */
async function tabTo(page: Page, name: string): Promise<void> {
  for (let press = 0; press < 120; press++) {
    await page.keyboard.press('Tab');
    const label = await page.evaluate(() => {
      const element = document.activeElement as HTMLElement | null;
      if (!element || element === document.body) return '';
      if (element.tagName === 'SELECT') return element.getAttribute('aria-label') ?? '';
      return `${element.getAttribute('aria-label') ?? ''} ${(element as HTMLInputElement).labels?.[0]?.textContent ?? ''} ${element.textContent ?? ''}`;
    });
    if (label.includes(name)) return;
  }
  throw new Error(`Tab does not lead to ${name}`);
}

test('the project gives way: it takes the loop’s tempo, and what is placed keeps its bars; dragging repeats a clip', async ({ page }) => {
  await comeIn(page);
  await makeProject(page, `Giving way ${unique}`, 110, '7M');
  const { packId } = await loopFor(page, 'Piston A1');
  await visit(page, `/?q=piston+a1&pack=${packId}&kind=loop&sort=title&dir=asc`);
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.getByLabel(/The project gives way/).check();
  await page.getByRole('dialog').getByRole('button', { name: 'Place', exact: true }).click();
  const ribbon = page.getByRole('region', { name: 'Project', exact: true });
  await expect(ribbon).toContainText('124 · G major');
  await ribbon.getByRole('link').click();
  const clip = page.locator('[data-clip]').first();
  await expect(clip).toHaveAttribute('aria-label', /bars 1 to 8/);
  const box = await clip.boundingBox();
  if (!box) throw new Error('no clip');
  await page.mouse.move(box.x + box.width - 4, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width + 56 * 4, box.y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(clip).toHaveAttribute('aria-label', /bars 1 to 12/);
  await page.mouse.move(box.x + 60, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 60 + 56 * 2, box.y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(clip).toHaveAttribute('aria-label', /bars 3 to 14/);
  for (const name of ['Mute Piston A1', 'Solo Piston A1']) {
    await page.getByRole('button', { name }).click();
    await expect(page.getByRole('button', { name })).toHaveAttribute('aria-pressed', 'true');
  }
  await page.getByRole('button', { name: 'Up a semitone' }).click();
  await expect(page.getByRole('region', { name: 'Chosen clip' })).toContainText('up 1');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(clip).toHaveAttribute('aria-label', /bars 3 to 14/);
  await page.getByRole('button', { name: 'Mute Piston A1' }).click();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  // The other kind of file: 16 bits at 48 kHz, as long as the music.
  const wav = await mixdownOf(page, { bits: 16, rateHz: 48000 });
  expect([wav.sampleRateHz, wav.bits]).toEqual([48000, 16]);
  expect(wav.channels[0].length / 48000).toBeCloseTo((14 * 240) / 124, 1);
});

test('a loop can be dragged from the list onto a bar of the ribbon', async ({ page }) => {
  await comeIn(page);
  await makeProject(page, `Dragging ${unique}`, 96, '5m');
  await visit(page, '/?q=lantern+walk+a1');
  const row = loopRows(page).first().getByRole('gridcell').first(),
    strip = page.getByRole('slider', { name: 'Place in the project, in bars' });
  const from = await row.boundingBox(),
    to = await strip.boundingBox();
  if (!from || !to) throw new Error('nothing to drag');
  await page.mouse.move(from.x + 40, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y - 30, { steps: 5 });
  await page.mouse.move(to.x + (to.width * 4.5) / 8, to.y + 20, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByRole('dialog').getByLabel('At bar')).toHaveValue('5');
  await page.getByRole('dialog').getByRole('button', { name: 'Place', exact: true }).click();
  // From the tray onto a track of the project's page, at a bar.
  await page.getByRole('region', { name: 'Project', exact: true }).getByRole('link').click();
  const lane = page.locator('[data-lane]').first();
  await lane.waitFor();
  await page.evaluate(async () => {
    const { engine, projectStore } = window.garnetfinch as unknown as {
      engine: { audition: { start(row: unknown): Promise<void> } };
      projectStore: { store: { getState(): { loops: Map<number, unknown> } } };
    };
    await engine.audition.start([...projectStore.store.getState().loops.values()][0]);
  });
  const wave = await page.getByTitle('Drag into the project').boundingBox(),
    target = await lane.boundingBox();
  if (!wave || !target) throw new Error('nothing to drag onto');
  await page.mouse.move(wave.x + 200, wave.y + 40);
  await page.mouse.down();
  await page.mouse.move(wave.x + 220, wave.y, { steps: 5 });
  await page.mouse.move(target.x + 56 * 1.5, target.y + 30, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByRole('dialog').getByLabel('At bar')).toHaveValue('2');
  await expect(page.getByRole('dialog').getByLabel('Onto').locator('option:checked')).toHaveText('Lantern Walk A1');
});

test('two browsers edit one project at the same time: both end with the same, and each takes back its own, behind a reload too', async ({
  page,
  browser,
}) => {
  await comeIn(page);
  const id = await makeProject(page, `Two windows ${unique}`, 100);
  const context = await browser.newContext(),
    other = await context.newPage();
  await signIn(other, accounts[2]);
  await other.goto(`/projects/${id}`);
  await other.waitForSelector('html[data-ready=yes]');
  const edit = (where: typeof page, changes: object) =>
      where.evaluate((all) => window.garnetfinch.projectStore.edit({ kind: 'set-project', changes: all }), changes),
    shown = (where: typeof page) =>
      where.evaluate(() => {
        const { project, save } = window.garnetfinch.projectStore.store.getState() as unknown as {
          project: { tempoBpm: number; name: string; masterGainDb: number };
          save: string;
        };
        return [project.tempoBpm, project.name, project.masterGainDb, save];
      });
  await Promise.all([
    edit(page, { tempoBpm: 101 }),
    edit(other, { name: `Ours ${unique}` }),
    edit(page, { masterGainDb: -2 }),
    edit(other, { masterGainDb: -4 }),
  ]);
  await expect.poll(async () => JSON.stringify((await shown(page)).slice(0, 2))).toBe(JSON.stringify([101, `Ours ${unique}`]));
  await expect.poll(async () => (await shown(page))[3]).toBe('saved');
  // Whichever of the two levels came last: it is the same one in both.
  await expect
    .poll(async () => {
      const [one, two] = [await shown(page), await shown(other)];
      return one[3] === 'saved' && JSON.stringify(one) === JSON.stringify(two);
    })
    .toBe(true);
  await expect(other.getByRole('region', { name: 'Project', exact: true })).toContainText('101');
  // Each takes back what it did itself; the reload forgets nothing.
  await other.reload();
  await other.waitForSelector('html[data-ready=yes]');
  const couldUndo = () =>
    other.evaluate(() => (window.garnetfinch.projectStore.store.getState() as unknown as { undo: unknown[] }).undo.length);
  for (const left of [2, 1]) {
    await expect.poll(couldUndo).toBe(left);
    await other.keyboard.press('Control+z');
  }
  await expect.poll(couldUndo).toBe(0);
  await expect.poll(async () => (await shown(page))[1]).toBe(`Two windows ${unique}`);
  expect((await shown(page))[0]).toBe(101);
  await context.close();
});

test('a project starts from a loop and takes its tempo and key', async ({ page }) => {
  await comeIn(page);
  await page.goto('/?q=flute+124');
  await page.getByRole('link', { name: /Flute/ }).click();
  await page.getByRole('button', { name: 'Start a project from it' }).click();
  await page.waitForSelector('[data-clip]');
  await expect(page.getByRole('region', { name: 'Project', exact: true })).toContainText('124 · D minor');
  await waitForFits(page);
});
