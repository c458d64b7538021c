import { expect } from '@playwright/test';
import { loopIdOf } from '../../../core/arrangement/tree';
import { mixdownFrom } from '../mixdown';
import { barsOf, goToBar, levelsOf, pieceOf, takeClip, tracksOf } from '../piece';
import { comeIn, test } from '../support';

test('a tambourine’s accent onto 2 and 4, cut to a bar, repeated, a break, and all of it copied on', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk accent ${Date.now()}`, [['Tambourine 62 A', 4]]);
  const beatsOf = async (): Promise<number[]> => {
    const [left] = await mixdownFrom(page, 0, 4, 124);
    // Peaks of the beats’ first halves: hits, not what rings.
    return Array.from({ length: 4 }, (_, beat) =>
      Math.max(...left.subarray(Math.round((beat * left.length) / 4), Math.round(((beat + 0.4) * left.length) / 4)).map(Math.abs)),
    );
  };
  await takeClip(page, 0, 1);
  await page.keyboard.press('a');
  const dialog = page.getByRole('dialog', { name: 'Move the accent' });
  // From wherever it lies: onto 1 first, so that there is something to move.
  await dialog.getByRole('button', { name: 'Onto 1', exact: true }).click();
  await dialog.getByRole('button', { name: 'Onto 2 and 4' }).click();
  await dialog.getByRole('button', { name: 'Done' }).click();
  const beats = await beatsOf();
  expect(Math.min(beats[1], beats[3])).toBeGreaterThan(0.95 * Math.max(beats[0], beats[2]));
  // Cut to one bar, and repeated to the end of its section.
  await goToBar(page, 2);
  await takeClip(page, 0, 1);
  await page.keyboard.press('s');
  await takeClip(page, 0, 2);
  await page.keyboard.press('Delete');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–1']);
  await takeClip(page, 0, 1);
  await page.keyboard.press('Control+d');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–1', '2–2']);
  await page.locator('[data-clip]').first().focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+d');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–1', '2–2', '3–3', '4–4']);
  // A break in bar 3, and the whole once more.
  await takeClip(page, 0, 3);
  await page.keyboard.press('m');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+d');
  await expect.poll(async () => (await barsOf(page, 0)).length).toBe(8);
  await expect
    .poll(async () => [...(await tracksOf(page))[0].clips].sort((a, b) => a.startBeat - b.startBeat).map(({ muted }) => muted))
    .toEqual([false, false, true, false, false, false, true, false]);
  const [left] = await mixdownFrom(page, 16, 16, 124),
    [one, two, three, four] = levelsOf(left, 4);
  for (const bar of [one, two, four]) expect(bar).toBeGreaterThan(-60);
  expect(levelsOf(left.subarray(Math.round(left.length / 2) + 3000, Math.round((left.length * 3) / 4) - 200), 1)[0]).toBeLessThan(-80);
  expect(three).toBeLessThan(two - 12);
});

test('8 bars made 10 by the middle: first and last stay, and the plainest come again', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(
    page,
    `Walk longer ${Date.now()}`,
    [
      ['Piston A1', 8],
      ['Piano Chords 01', 8],
    ],
    { tempoBpm: 200 },
  );
  const [before] = await mixdownFrom(page, 0, 32, 200),
    was = levelsOf(before, 8);
  await page.getByRole('button', { name: /^Opening, section/ }).click();
  await page.getByRole('menuitem', { name: /^Make it longer/ }).click();
  const dialog = page.getByRole('dialog', { name: 'How long Opening is' });
  await dialog.getByRole('spinbutton', { name: /bars; now 8/ }).fill('10');
  const plan = (await dialog.getByRole('listitem').allTextContents()).map(Number);
  expect(plan).toHaveLength(10);
  expect([plan[0], plan[9]]).toEqual([1, 8]);
  await dialog.getByRole('button', { name: 'Make it so' }).click();
  await expect(page.getByRole('button', { name: 'Opening, section of bars 1 to 10' })).toBeVisible();
  const [after] = await mixdownFrom(page, 0, 40, 200);
  for (const [bar, level] of levelsOf(after, 10).entries()) expect(Math.abs(level - was[plan[bar] - 1])).toBeLessThan(1.5);
});

test('A A A B: the fill of the set plays in the last time, is heard before it is kept, and goes again', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk fill ${Date.now()}`, [['Piston A1', 16]], { sectionBars: [16] });
  await takeClip(page, 0, 1);
  await page.keyboard.press('v');
  const dialog = page.getByRole('dialog', { name: 'Variation' }),
    others = dialog.getByLabel('What B is');
  await expect(others.locator('option', { hasText: 'Fill' })).toHaveCount(1);
  await others.selectOption({ label: (await others.locator('option', { hasText: 'Fill' }).textContent()) ?? '' });
  const letters = dialog.getByRole('list', { name: 'What plays in each repetition' }).getByRole('listitem');
  await expect(letters).toHaveText(['A', 'A', 'A', 'B']);
  await dialog.getByRole('button', { name: 'Hear it', exact: true }).click();
  await expect(dialog.getByRole('button', { name: 'Hear it as it is' })).toBeVisible();
  // Somebody says something of the loop: what was chosen stays, and so does what is heard.
  const chosen = await others.inputValue(),
    asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  await page.evaluate(async () => {
    const { projectStore } = window.garnetfinch as unknown as {
      projectStore: { takeLoops(rows: object[]): void; store: { getState(): { loops: ReadonlyMap<number, object> } } };
    };
    projectStore.takeLoops([...projectStore.store.getState().loops.values()].map((row) => ({ ...row })));
    // It plays, so nothing comes to rest: what follows from that is drawn with the second frame.
    for (let k = 0; k < 2; k++) await new Promise((next) => requestAnimationFrame(next));
  });
  expect(asked.filter((url) => url.includes('set='))).toEqual([]);
  await expect(others).toHaveValue(chosen);
  await expect(dialog.getByRole('button', { name: 'Hear it as it is' })).toBeVisible();
  await page.evaluate(() => window.garnetfinch.engine.stop());
  await dialog.getByRole('button', { name: 'Make it so' }).click();
  await expect.poll(async () => new Set((await tracksOf(page))[0].clips.map(loopIdOf)).size).toBe(2);
  const [left] = await mixdownFrom(page, 32, 32, 124),
    half = Math.floor(left.length / 2);
  let [apart, whole] = [0, 0];
  for (let i = 0; i < half; i++) {
    apart += (left[i] - left[half + i]) ** 2;
    whole += left[i] ** 2;
  }
  // Another loop: nothing of the first is left when it is taken away.
  expect(10 * Math.log10(apart / whole)).toBeGreaterThan(-6);
  await page.keyboard.press('Control+z');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–16']);
});

test('another in a clip’s place, walked by keys, heard where it lies; place, length and gain stay', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk instead ${Date.now()}`, [['Shaker 62 A', 8]]);
  await takeClip(page, 0, 1);
  await page.keyboard.press('-');
  const [before] = (await tracksOf(page))[0].clips;
  await page.keyboard.press('i');
  const panel = page.getByRole('region', { name: 'Instead of it' });
  await panel.getByLabel('From where').selectOption('fit');
  const options = panel.getByRole('listbox').getByRole('option');
  await expect(options.first()).toBeVisible();
  await panel.getByRole('listbox').focus();
  await page.keyboard.press('ArrowDown');
  await expect(options.first()).toHaveAttribute('aria-selected', 'true');
  // Heard there, and nothing is kept yet.
  await page.waitForFunction(
    () => (window.garnetfinch.projectStore.store.getState() as unknown as { preview: object | null }).preview !== null,
  );
  expect((await tracksOf(page))[0].clips).toEqual([before]);
  await page.keyboard.press('Enter');
  await expect(panel).toBeHidden();
  const [after] = (await tracksOf(page))[0].clips;
  expect(loopIdOf(after)).not.toBe(loopIdOf(before));
  expect({ ...after, content: before.content }).toEqual(before);
  const [left] = await mixdownFrom(page, 0, 8, 124);
  expect(levelsOf(left, 1)[0]).toBeGreaterThan(-60);
});
