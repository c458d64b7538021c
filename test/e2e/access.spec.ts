import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { newClip, newTrack } from '../../core/arrangement/tree';
import { layPiece, loopFor } from './piece';
import { comeIn, createProject, openProject, settled, test, visit, waitForFits } from './support';

const axe = readFileSync('node_modules/axe-core/axe.min.js', 'utf8');

const themes = ['daybreak', 'dusk'] as const,
  everything = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
  /** What a theme can change; all else is the same page. */
  colours = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] };

/** Serious and critical findings of axe (WCAG 2.2 AA), with where they are. */
async function findings(page: Page, runOnly: typeof everything | typeof colours): Promise<string[]> {
  return page.evaluate(async (asked) => {
    const { violations } = await (
      window as unknown as {
        axe: {
          run(
            context: Document,
            options: object,
          ): Promise<{ violations: { id: string; impact: string; nodes: { target: string[]; failureSummary: string }[] }[] }>;
        };
      }
    ).axe.run(document, { runOnly: asked, resultTypes: ['violations'] });
    return violations
      .filter((each) => each.impact === 'serious' || each.impact === 'critical')
      .map(
        (each) =>
          `${each.id}: ${each.nodes
            .slice(0, 3)
            .map((node) => `${node.target.join(' ')} (${node.failureSummary.split('\n')[1]?.trim()})`)
            .join(' | ')}`,
      );
  }, runOnly);
}

/** In one theme everything is looked at, in the other its colours. */
async function nothingSerious(page: Page, where: string): Promise<void> {
  await page.evaluate(axe);
  for (const theme of themes) {
    await page.evaluate((wanted) => {
      document.documentElement.dataset.theme = wanted;
      window.dispatchEvent(new Event('themechange'));
    }, theme);
    await settled(page);
    expect(await findings(page, theme === themes[0] ? everything : colours), `${where}, ${theme}`).toEqual([]);
  }
}

/** Pages that are looked at as they come, by what they are about. */
const pages: Readonly<Record<string, (loopId: number, projectId: number) => readonly string[]>> = {
  finding: () => [
    '/',
    '/?q=nothingatallofthis',
    '/?view=map&in=1',
    '/?view=pack',
    '/?near=like:3:1-0-0&sort=likeness&in=1',
    '/?q=shaker+118-126+-is:notes',
    '/heard',
    '/collections',
  ],
  material: () => ['/packs', '/packs/1', '/packs/ear', '/packs/ear?as=grid', '/packs/twins', '/exchange'],
  'work and people': (loopId, projectId) => [
    '/projects',
    `/projects/${projectId}`,
    '/workbench',
    `/workbench/${loopId}`,
    `/loops/${loopId}`,
    '/people',
    '/diagnostics',
    '/remote',
  ],
};

/** Signs in with a project of the demo in the room; gives it, and a loop. */
async function lookIn(page: Page): Promise<{ loopId: number; projectId: number }> {
  await comeIn(page);
  await openProject(page, 'Engine Room');
  const { id } = await loopFor(page, 'Piano Chords 01 -is:notes');
  return { loopId: id, projectId: await page.evaluate(() => window.garnetfinch.projectStore.store.getState().id) };
}

test('a page comes in the theme that was chosen', async ({ page, context }) => {
  for (const value of themes) {
    await context.addCookies([{ name: 'theme', value, domain: '127.0.0.1', path: '/' }]);
    await page.goto('/sign-in');
    expect(await page.getAttribute('html', 'data-theme')).toBe(value);
  }
});

test('axe finds nothing serious: who comes in', async ({ page }) => {
  await page.goto('/sign-in');
  await nothingSerious(page, 'sign in');
});

for (const [about, addressesOf] of Object.entries(pages))
  test(`axe finds nothing serious: ${about}`, async ({ page }) => {
    const { loopId, projectId } = await lookIn(page);
    for (const address of addressesOf(loopId, projectId)) {
      await visit(page, address);
      await nothingSerious(page, address);
      // The page scrolls inside its frame; the frame itself fits the window.
      if (address !== '/remote')
        expect(await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight), address).toBeLessThanOrEqual(0);
    }
  });

test('axe finds nothing serious: the steps of the workbench', async ({ page }) => {
  const { loopId } = await lookIn(page);
  // A step is chosen by what was added last.
  await visit(page, `/workbench/${loopId}`);
  for (const step of [/^Part/, /^Onto the grid/, /^Notes of a line/, /^Retune/, /^Slices/, /^Clean/, /^Layers/]) {
    await page.getByRole('button', { name: 'Add' }).click();
    await page.getByRole('menuitem', { name: step }).click();
    await page.waitForSelector('[data-bench=ready]');
  }
  await nothingSerious(page, 'steps of the workbench');
  await page.getByRole('button', { name: 'Save …' }).click();
  await nothingSerious(page, 'the sheet');
});

test('axe finds nothing serious: harmony and notes', async ({ page }) => {
  await lookIn(page);
  const { id: loopId } = await loopFor(page, 'Piano Chords 01'),
    clips = [newClip({ id: 'c', loopId, startBeat: 0, lengthBeats: 32 })];
  await layPiece(page, { name: `Looked at ${Date.now().toString(36)}`, tempoBpm: 120, key: '2m' }, [
    { kind: 'add-track', index: 0, track: newTrack({ id: 't', name: 'Piano', clips }) },
    // One that belongs, one that is borrowed, one from outside.
    { kind: 'set-chords', chords: ['Dm', 'G', 'C♯m'].map((symbol, k) => ({ startBeat: 8 * k, symbol })) },
  ]);
  await page.getByRole('button', { name: /^Harmony/ }).click();
  await nothingSerious(page, 'harmony');
  await visit(page, `/projects/${await createProject(page, `Notes ${Date.now().toString(36)}`, 120, '2m')}`);
  await page.getByRole('button', { name: 'An empty track' }).click();
  for (const kind of ['New drums', 'New notes']) {
    await page.getByRole('button', { name: kind, exact: true }).click();
    await page.getByRole('button', { name: 'Play and record' }).click();
    await nothingSerious(page, `notes, ${kind}`);
  }
});

test('axe finds nothing serious: the tray and its dialogs', async ({ page }) => {
  await lookIn(page);
  await visit(page, '/');
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate !== null);
  await page.keyboard.press('k');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('k');
  await waitForFits(page);
  await nothingSerious(page, 'the tray with a candidate and a shortlist');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await nothingSerious(page, 'placing');
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await nothingSerious(page, 'keys');
  await page.keyboard.press('Escape');
  await page.locator('[data-loop-list]').focus();
  await page.keyboard.press('x');
  await page.getByRole('toolbar', { name: 'Chosen loops' }).getByRole('button', { name: 'Edit …' }).click();
  await nothingSerious(page, 'editing many');
});
