import { expect, type Page, type Route } from '@playwright/test';
import { beatWav, bringIn } from './brought';
import { comeIn, makeProject, test, visit } from './support';

const told = (page: Page, words: RegExp) => expect(page.getByRole('status').filter({ hasText: words }).first()).toBeVisible();

/** While `act` is done, what is asked of these addresses is answered so; questions of other methods go on. */
async function whileAnswered(
  page: Page,
  address: string,
  answer: (route: Route) => Promise<void>,
  act: () => Promise<void>,
): Promise<void> {
  await page.route(address, (route) => (route.request().method() === 'GET' ? route.fallback() : answer(route)));
  await act();
  await page.unroute(address);
}
const notAtAll = (route: Route) => route.abort();

test('what the server does not answer, or refuses, is told; the page stays, and shows what holds', async ({ page }) => {
  const stamp = Date.now().toString(36),
    title = `Weir kick ${stamp}`;
  await comeIn(page);
  const packId = await bringIn(page, `Weir ${stamp}`, [{ path: `${title}.wav`, bytes: beatWav(97, 8) }]);

  // A star in the Library goes out again, and can be lit later.
  await visit(page, `/?pack=${packId}`);
  const star = page.locator('[data-loop-list]').getByRole('button', { name: /favourite/ });
  await whileAnswered(page, '**/favourite', notAtAll, async () => {
    await star.click();
    await told(page, /could not be kept/);
    await expect(star).toHaveAttribute('aria-pressed', 'false');
  });
  const kept = page.waitForResponse((response) => response.url().includes('/favourite') && response.ok());
  await star.click();
  await kept;
  await visit(page, `/?pack=${packId}`);
  await expect(star).toHaveAttribute('aria-pressed', 'true');

  // What was not done is not told to be done.
  await page.locator('[data-loop-list]').getByRole('link', { name: title }).click();
  const heading = page.getByRole('heading', { level: 1, name: title });
  await whileAnswered(page, '**/api/v1/loops/archived', notAtAll, async () => {
    await page.getByRole('button', { name: 'Archive', exact: true }).click();
    await told(page, /did not answer/);
  });
  await expect(heading).toBeVisible();
  await expect(page.getByText(`Archived “${title}”`)).toHaveCount(0);
  await expect(page.getByText('archived', { exact: true })).toHaveCount(0);

  await visit(page, '/packs');
  const batch = page.locator('[data-batch]', { hasText: `Weir ${stamp}` }),
    refused = (route: Route) =>
      route.fulfill({ status: 403, contentType: 'application/problem+json', body: JSON.stringify({ detail: 'Not yours to take back.' }) });
  await whileAnswered(page, '**/api/v1/imports', refused, async () => {
    await batch.getByRole('button', { name: 'take back' }).click();
    await told(page, /Not yours to take back/);
  });
  await expect(page.getByText('Took 1 loops')).toHaveCount(0);
  await expect(batch.getByRole('button', { name: 'take back' })).toBeVisible();

  await visit(page, `/packs/${packId}`);
  await whileAnswered(page, '**/archived', notAtAll, async () => {
    await page.getByRole('button', { name: 'archive', exact: true }).click();
    await told(page, /did not answer/);
  });
  await expect(page.getByRole('heading', { level: 1, name: `Weir ${stamp}` })).toBeVisible();
  await expect(page.getByText(/^Archived “/)).toHaveCount(0);
});

test('a mixdown that could not be asked for is told, and is asked for again by the same button', async ({ page }) => {
  await comeIn(page);
  const id = await makeProject(page, `Unasked ${Date.now().toString(36)}`, 100);
  await visit(page, `/projects/${id}`);
  const button = page.getByRole('button', { name: 'Export WAV' });
  await whileAnswered(page, '**/exports', notAtAll, async () => {
    await button.click();
    await told(page, /did not answer/);
  });
  await button.click();
  await expect(page.locator('[data-export-state]')).toBeVisible();
});

test('a part of the list that could not be had is asked for again, and comes', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/?in=none&sort=title&dir=asc');
  const list = page.locator('[data-loop-list]'),
    offset = /\/api\/v1\/loops\?.*offset=/;
  let asked = 0;
  await page.route(offset, (route) => (asked++ === 0 ? route.abort() : route.fallback()));
  await list.focus();
  await page.keyboard.press('End');
  await expect.poll(() => asked).toBeGreaterThan(1);
  await page.unroute(offset);
  const last = await list.getAttribute('aria-activedescendant');
  await expect(page.locator(`[id="${last}"]`).getByRole('link').first()).toBeVisible();
});
