import { expect } from '@playwright/test';
import { beatWav, bringIn } from './brought';
import { pieceOf } from './piece';
import { comeIn, createProject, makeProject, test, visit } from './support';

const unique = Date.now().toString(36);

test('two tabs have two projects in the room, and no page of one tab changes the other', async ({ page, context }) => {
  await comeIn(page);
  const one = await makeProject(page, `First tab ${unique}`, 101),
    tab = await context.newPage();
  await visit(tab, '/');
  const two = await makeProject(tab, `Second tab ${unique}`, 144),
    ribbon = (of: typeof page) => of.getByRole('region', { name: 'Project', exact: true });
  await tab.getByRole('link', { name: 'Library' }).click();
  await expect(tab).toHaveURL(new RegExp(`in=${two}`));
  // A tab behind another one draws nothing, and waits.
  await page.bringToFront();
  await page.getByRole('link', { name: 'Library' }).click();
  await expect(page).toHaveURL(new RegExp(`in=${one}`));
  await page.getByRole('link', { name: 'Packs', exact: true }).click();
  await expect(page).toHaveURL(/packs/);
  await page.getByRole('link', { name: 'Library' }).click();
  await expect(page).not.toHaveURL(/packs/);
  await expect(ribbon(page)).toContainText(`First tab ${unique}`);
  // Also the list is ranked for this tab's project, and a page that is loaded anew keeps it.
  await page.reload();
  await page.waitForSelector('html[data-ready=yes]');
  await expect(ribbon(page)).toContainText(`First tab ${unique}`);
  await expect(ribbon(tab)).toContainText(`Second tab ${unique}`);
  // A search keeps it too.
  await page.locator('[data-query]').fill('kick');
  await expect(page).toHaveURL(/q=kick/);
  await expect(page).toHaveURL(new RegExp(`in=${one}`));
});

test('going back brings back the project that was in the room, and none is a room too', async ({ page }) => {
  await comeIn(page);
  const id = await makeProject(page, `Back ${unique}`, 99);
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByLabel('Project in the room').selectOption('');
  await expect(page).toHaveURL(/in=none/);
  await expect(page.getByRole('region', { name: 'Project', exact: true })).not.toContainText(`Back ${unique}`);
  await page.goBack();
  await expect(page).toHaveURL(new RegExp(`in=${id}`));
  await expect(page.getByRole('region', { name: 'Project', exact: true })).toContainText(`Back ${unique}`);
});

test('what is begun, renamed and archived elsewhere is seen on the Projects page and in the list of the room', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/projects');
  const [name, later] = [`Begun elsewhere ${unique}`, `Renamed elsewhere ${unique}`],
    link = (text: string) => page.getByRole('main').getByRole('link', { name: text }),
    option = (text: string) => page.getByLabel('Project in the room').locator('option', { hasText: text }),
    id = await createProject(page, name, 97);
  await expect(link(name)).toBeVisible();
  await expect(option(name)).toHaveCount(1);
  await page.request.post(`/api/v1/projects/${id}/edits`, {
    data: { revision: 0, steps: [{ stepId: `named-${id}`, edit: { kind: 'set-project', changes: { name: later } } }] },
  });
  await expect(link(later)).toBeVisible();
  await expect(link(name)).toHaveCount(0);
  // On another page the list of the room follows by itself.
  await page.getByRole('link', { name: 'Collections' }).click();
  await expect(page.getByRole('heading', { name: 'Collections' })).toBeVisible();
  await expect(option(later)).toHaveCount(1);
  await page.request.post('/api/v1/projects', { form: { intent: 'archive', projectId: String(id) } });
  await expect(option(later)).toHaveCount(0);
});

test('what happens while a page is on its way, before it hears of anything, is on it', async ({ page }) => {
  await comeIn(page);
  let answer = () => {};
  const late = new Promise<void>((come) => (answer = come)),
    name = `Begun in between ${unique}`,
    option = page.getByLabel('Project in the room').locator('option', { hasText: name });
  await page.route(/\/events/, async (route) => {
    await late;
    await route.continue();
  });
  const asked = page.waitForRequest(/\/events/);
  await visit(page, '/people');
  await asked;
  await createProject(page, name, 120);
  await expect(option).toHaveCount(0);
  answer();
  await expect(option).toHaveCount(1);
});

test('what is called otherwise while its page is on the way is called so there', async ({ page }) => {
  await comeIn(page);
  const [name, later] = [`On its way ${unique}`, `Got there ${unique}`];
  await bringIn(page, `Packed ${unique}`, [{ path: `${name}.wav`, bytes: beatWav(120, 8) }]);
  await visit(page, `/?q=${encodeURIComponent(name)}`);
  const link = (text: string) => page.locator('[data-loop-list]').getByRole('link', { name: text }),
    loopId = Number(/\/loops\/(\d+)/.exec((await link(name).getAttribute('href')) ?? '')?.[1]);
  await page.route(
    /\/loops\/\d+\.data/,
    async (route) => {
      const response = await route.fetch();
      await page.request.put(`/api/v1/loops/${loopId}/title`, { form: { title: later } });
      // The list is still there, and has heard of it.
      await expect(link(later)).toBeVisible();
      await route.fulfill({ response });
    },
    { times: 1 },
  );
  await link(name).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(later);
});

test('from a track’s menu the Library finds what goes with that track alone', async ({ page }) => {
  await comeIn(page);
  await pieceOf(page, `Goes with ${Date.now()}`, [
    ['Shaker 62 A', 8],
    ['Tambourine 62 A', 8],
  ]);
  await page
    .getByRole('button', { name: /^More for the track/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Find what goes with it' }).click();
  const bar = page.getByRole('group', { name: 'What the list is near to' });
  await expect(bar).toContainText('Goes with the track');
  await expect(page.getByRole('grid').getByRole('row').nth(1)).toBeVisible();
  await bar.getByRole('button', { name: 'all loops again' }).click();
  await expect(bar).toHaveCount(0);
});

test('a view that is still on its way is kept by what is asked next', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/?view=pack');
  let open = () => {};
  const gate = new Promise<void>((done) => (open = done));
  await page.route(/\.data(\?|$)/, async (route) => {
    await gate;
    await route.continue();
  });
  await page.getByRole('radio', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: /^unpitched/ }).click();
  open();
  await expect(page).toHaveURL(/key=un/);
  await expect(page).not.toHaveURL(/view=/);
  await expect(page.locator('[data-loop-list]').locator('[role=row]').first()).toBeVisible();
});

test('a page that is not there says so in its own place, and what sounds goes on', async ({ page }) => {
  await comeIn(page);
  await pieceOf(page, `Goes on ${unique}`, [['Shaker 62 A', 64]]);
  await page.getByRole('button', { name: 'Play the project' }).click();
  const playing = page.getByRole('button', { name: 'Stop the project' });
  await expect(playing).toBeVisible();
  const origin = () => page.evaluate(() => window.garnetfinch.engine.transport?.originFrame),
    before = await origin();
  // As a link out of date would lead there.
  await page.evaluate(() => {
    history.pushState({}, '', '/loops/999999999');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
  await expect(playing).toBeVisible();
  expect(await origin()).toBe(before);
  await page.getByRole('link', { name: 'Back to the library' }).click();
  await expect(page.locator('[data-loop-list]')).toBeVisible();
  await expect(playing).toBeVisible();
  await expect(page.getByRole('region', { name: 'Project', exact: true })).toContainText(`Goes on ${unique}`);
});
