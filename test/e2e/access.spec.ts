import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { makeProject, settled, signIn, test, visit, waitForFits } from './support';

const axe = readFileSync('node_modules/axe-core/axe.min.js', 'utf8');

/** Serious and critical findings of axe (WCAG 2.2 AA), with where they are. */
async function findings(page: Page): Promise<string[]> {
  await page.evaluate(axe);
  return page.evaluate(async () => {
    const { violations } = await (
      window as unknown as {
        axe: {
          run(
            context: Document,
            options: object,
          ): Promise<{ violations: { id: string; impact: string; nodes: { target: string[]; failureSummary: string }[] }[] }>;
        };
      }
    ).axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });
    return violations
      .filter((each) => each.impact === 'serious' || each.impact === 'critical')
      .map(
        (each) =>
          `${each.id}: ${each.nodes
            .slice(0, 3)
            .map((node) => `${node.target.join(' ')} (${node.failureSummary.split('\n')[1]?.trim()})`)
            .join(' | ')}`,
      );
  });
}

for (const theme of ['daybreak', 'dusk']) {
  test(`axe finds nothing serious on any page in ${theme}`, async ({ page, context }) => {
    await context.addCookies([{ name: 'theme', value: theme, domain: '127.0.0.1', path: '/' }]);
    await page.goto('/sign-in');
    expect(await findings(page)).toEqual([]);
    await signIn(page);
    expect(await page.getAttribute('html', 'data-theme')).toBe(theme);
    const project = await page.evaluate(() => window.garnetfinch.projectStore.store.getState().id);
    const { rows } = (await (await page.request.get('/api/v1/loops?q=piano&sort=title')).json()) as { rows: { id: number }[] };
    for (const address of [
      '/',
      '/?q=nothingatallofthis',
      '/packs',
      '/packs/1',
      '/packs/ear',
      '/packs/ear?as=grid',
      '/heard',
      '/collections',
      '/?view=map&in=1',
      '/?view=pack',
      '/?near=like:3:1-0-0&sort=likeness&in=1',
      '/?q=shaker+118-126+-is:notes',
      '/packs/twins',
      '/exchange',
      '/projects',
      '/workbench',
      `/workbench/${rows[0].id}`,
      `/projects/${project}`,
      '/people',
      '/diagnostics',
      '/remote',
      `/loops/${rows[0].id}`,
    ]) {
      await visit(page, address);
      await settled(page);
      expect(await findings(page), address).toEqual([]);
      // The page scrolls inside its frame; the frame itself fits the window.
      if (address !== '/remote')
        expect(await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight), address).toBeLessThanOrEqual(0);
    }
    // A step of the workbench is chosen by what was added last.
    await visit(page, `/workbench/${rows[0].id}`);
    for (const step of [/^Part/, /^Onto the grid/, /^Notes of a line/, /^Retune/, /^Slices/, /^Clean/, /^Layers/]) {
      await page.getByRole('button', { name: 'Add' }).click();
      await page.getByRole('menuitem', { name: step }).click();
      await page.waitForSelector('[data-bench=ready]');
    }
    await settled(page);
    expect(await findings(page), 'steps of the workbench').toEqual([]);
    await page.getByRole('button', { name: 'Save …' }).click();
    await settled(page);
    expect(await findings(page), 'the sheet').toEqual([]);
    // The harmony of the piece, and the notes of a project of its own, so that no demo is changed.
    await visit(page, `/projects/${project}`);
    await page.getByRole('button', { name: /^Harmony/ }).click();
    await settled(page);
    expect(await findings(page), 'harmony').toEqual([]);
    await visit(page, `/projects/${await makeProject(page, `Looked at ${theme} ${Date.now().toString(36)}`, 120, '2m')}`);
    await page.getByRole('button', { name: 'An empty track' }).click();
    for (const kind of ['New drums', 'New notes']) {
      await page.getByRole('button', { name: kind, exact: true }).click();
      await page.getByRole('button', { name: 'Play and record' }).click();
      await settled(page);
      expect(await findings(page), `notes, ${kind}`).toEqual([]);
    }
    await visit(page, '/');
    await page.locator('[data-loop-list]').focus();
    await page.keyboard.press('ArrowDown');
    await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate !== null);
    await page.keyboard.press('k');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('k');
    await waitForFits(page);
    await settled(page);
    expect(await findings(page), 'the tray with a candidate and a shortlist').toEqual([]);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog')).toBeVisible();
    await settled(page);
    expect(await findings(page), 'placing').toEqual([]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    await settled(page);
    expect(await findings(page), 'keys').toEqual([]);
    await page.keyboard.press('Escape');
    await page.locator('[data-loop-list]').focus();
    await page.keyboard.press('x');
    await page.getByRole('toolbar', { name: 'Chosen loops' }).getByRole('button', { name: 'Edit …' }).click();
    await settled(page);
    expect(await findings(page), 'editing many').toEqual([]);
  });
}
