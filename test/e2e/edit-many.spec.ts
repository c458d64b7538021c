import { expect, type Page } from '@playwright/test';
import { comeIn, importFiles, test, visit, wavOf } from './support';

const unique = Date.now().toString(36),
  word = `many${unique}`;
/** Eight clicks at a tempo, which differ from those of another, and from those of the last time: equal files are known. */
const level = 0.4 + (Date.now() % 100_000) / 1_000_000;
const clicks = (tempo: number): Uint8Array =>
  wavOf((8 * 60) / tempo, (t) => (((t * tempo) / 60) % 1 < 0.05 ? level * Math.sin(t * 20 * tempo) : 0));

/** Holds back the numbers of so many loops in a row until they are let go, and have come to the page. */
async function holdAnswer(page: Page, count: number): Promise<{ letGo(): Promise<void> }> {
  let mayGo = () => {};
  const held = new Promise<void>((done) => (mayGo = done)),
    isAsked = (url: URL) => url.pathname.endsWith('/loops/ids') && url.searchParams.get('limit') === String(count);
  await page.route(isAsked, async (route) => {
    const response = await route.fetch();
    await held;
    await route.fulfill({ response });
  });
  const asked: string[] = [];
  page.on('request', (request) => request.url().includes('/loops/ids') && asked.push(new URL(request.url()).search));
  const come = page
    .waitForResponse((response) => isAsked(new URL(response.url())), { timeout: 60_000 })
    .catch((error: Error) => {
      throw new Error(`${error.message} Asked for were: ${asked.join(' ')}`);
    });
  return {
    letGo: async () => {
      mayGo();
      await (await come).finished();
      // What the page makes of it is drawn.
      await page.evaluate(() => new Promise((next) => requestAnimationFrame(() => requestAnimationFrame(next))));
    },
  };
}

test('several loops are chosen by mouse and by keys, edited in one step that is shown before, and brought back in one', async ({
  page,
}) => {
  await comeIn(page);
  await importFiles(
    page.request,
    `Pack ${word}`,
    [90, 100, 110, 120].map((tempo) => ({ path: `${word} ${tempo} bpm.wav`, bytes: clicks(tempo) })),
  );
  await visit(page, `/?q=${word}&sort=tempo&dir=asc`);
  const rows = page.getByRole('grid').getByRole('row'),
    bar = page.getByRole('toolbar', { name: 'Chosen loops' });
  await expect(rows).toHaveCount(4);
  await rows.nth(0).click({ modifiers: ['ControlOrMeta'] });
  await rows.nth(2).click({ modifiers: ['Shift'] });
  await expect(bar).toContainText('3 chosen');
  await expect(page.locator('[aria-selected=true]')).toHaveCount(3);
  await bar.getByRole('button', { name: 'Edit …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Edit 3 loops' });
  await dialog.getByRole('combobox', { name: 'Change' }).selectOption({ label: 'Tempo: double it' });
  await expect(dialog.getByText('3 of 3 would change')).toBeVisible();
  await expect(dialog.getByRole('row').first()).toContainText('180');
  await dialog.getByRole('button', { name: 'Change them' }).click();
  await expect(bar).toBeHidden();
  await expect(rows.filter({ hasText: '180' })).toHaveCount(1, { timeout: 20_000 });
  await page.getByText('Undo', { exact: true }).click();
  await expect(rows.filter({ hasText: '180' })).toHaveCount(0, { timeout: 20_000 });
  // By keys: all, a tag, which the search finds.
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('ControlOrMeta+a');
  await expect(bar).toContainText('4 chosen');
  await bar.getByRole('button', { name: 'Edit …' }).click();
  const all = page.getByRole('dialog', { name: 'Edit 4 loops' });
  await all.getByRole('combobox', { name: 'Change' }).selectOption({ label: 'Tag: add one' });
  await all.getByRole('textbox', { name: 'Tag' }).fill(`tag${unique}`);
  await page.keyboard.press('Enter');
  await expect(all).toBeHidden();
  await expect(async () => {
    await visit(page, `/?q=tag${unique}&sort=tempo&dir=asc`);
    await expect(rows).toHaveCount(4, { timeout: 1000 });
  }).toPass({ timeout: 20_000 });
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('x');
  await expect(bar).toContainText('1 chosen');
  // Of two steps the first is answered last, and takes nothing back.
  const second = await holdAnswer(page, 2);
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(bar).toContainText('3 chosen');
  await second.letGo();
  await expect(bar).toContainText('3 chosen');
  // What is answered after all was let go chooses nothing.
  const fourth = await holdAnswer(page, 4);
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Escape');
  await expect(bar).toBeHidden();
  await fourth.letGo();
  await expect(bar).toBeHidden();
});
