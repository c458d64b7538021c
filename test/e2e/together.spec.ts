import { expect } from '@playwright/test';
import { pieceOf } from './piece';
import { comeIn, signIn, test, visit } from './support';

test('two at one project: each sees at once who is here and what is held; a note stands on its bar, is answered and ticked off', async ({
  page,
  browser,
}) => {
  test.slow();
  await comeIn(page);
  const id = await pieceOf(page, `Together ${Date.now()}`, [['Shaker 62 A', 8]]),
    // In another browser; from page to page, so that its stream of news stands before the project is opened.
    other = await (await browser.newContext({ bypassCSP: true, viewport: { width: 1280, height: 800 } })).newPage();
  const { name } = await signIn(other);
  await visit(other, `/projects/${id}`);
  const here = page.getByRole('status', { name: 'Also here' });
  await expect(here).toContainText(name);
  await expect(other.getByRole('status', { name: 'Also here' })).toContainText('also here');
  await other.locator('[data-clip]').first().focus();
  await expect(page.locator('[data-clip]').first()).toHaveAttribute('aria-label', /held by/);
  await page.getByRole('button', { name: /^Notes/ }).click();
  await page.getByLabel('Note', { exact: true }).fill('shaker too loud here');
  await page.getByLabel('bar', { exact: true }).fill('5');
  await page.getByRole('button', { name: 'Say' }).click();
  await page.keyboard.press('Escape');
  // On the other's bar numbers too, and a click puts the playhead there.
  const mark = other.getByRole('button', { name: 'Note to bar 5: shaker too loud here' });
  await mark.click();
  expect(await other.evaluate(() => (window.garnetfinch.engine as unknown as { positionBeat(): number }).positionBeat())).toBe(16);
  await other.getByRole('button', { name: /^Notes/ }).click();
  await other.getByRole('button', { name: 'Answer' }).click();
  await other.getByLabel('Answer').fill('softer now');
  await other.getByRole('button', { name: 'Say' }).first().click();
  await page.getByRole('button', { name: 'Notes: 1' }).click();
  await expect(page.getByText('softer now')).toBeVisible();
  await page.getByRole('button', { name: 'Tick it off' }).click();
  await expect(mark).toHaveCount(0);
  await other.close();
  await expect(here).not.toContainText('also here');
});

test('clips are chosen as one expects: a click one, with Ctrl or Shift others beside it, again without', async ({ page }) => {
  await comeIn(page);
  await pieceOf(page, `Choosing ${Date.now()}`, [
    ['Shaker 62 A', 8],
    ['Tambourine 62 A', 8],
    ['Conga 62 A', 8],
  ]);
  const click = (at: number, modifiers: ('Control' | 'Shift')[] = []) =>
      page
        .locator('[data-clip]')
        .nth(at)
        .click({ position: { x: 40, y: 30 }, modifiers }),
    chosen = () =>
      page.locator('[data-clip]').evaluateAll((all) => all.flatMap((each, k) => (each.getAttribute('aria-pressed') === 'true' ? [k] : [])));
  await click(0);
  await expect.poll(chosen).toEqual([0]);
  await click(1, ['Control']);
  await click(2, ['Shift']);
  await expect.poll(chosen).toEqual([0, 1, 2]);
  await click(1, ['Control']);
  await expect.poll(chosen).toEqual([0, 2]);
  await click(2);
  await expect.poll(chosen).toEqual([2]);
  await click(2, ['Shift']);
  await expect.poll(chosen).toEqual([]);
});
