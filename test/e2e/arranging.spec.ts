import { expect } from '@playwright/test';
import { barsOf as bars, goToBar, pieceOf, saved, tracksOf as tracks } from './piece';
import { comeIn, rms, startTap, test, toDb, waitForFits } from './support';

test(
  'a clip is cut, repeated to the end of its section, given gaps and a break that is silent; each taken back',
  { tag: '@alone' },
  async ({ page }) => {
    test.slow();
    await comeIn(page);
    await pieceOf(page, `Arranging ${Date.now()}`, [['Shaker 62 A', 2]]);
    const clip = page.locator('[data-clip]').first();
    await clip.focus();
    await page.keyboard.press('e');
    await expect.poll(() => bars(page, 0)).toEqual(['1–8']);
    await page.keyboard.press('Shift+E');
    await page.keyboard.press('r');
    await expect.poll(() => bars(page, 0)).toEqual(['1–10']);
    await page.keyboard.press('Control+z');
    await expect.poll(() => bars(page, 0)).toEqual(['1–8']);
    await page.getByRole('button', { name: 'Gaps …' }).click();
    await page.getByRole('button', { name: 'two bars on, two off' }).click();
    await expect.poll(() => bars(page, 0)).toEqual(['1–2', '5–6']);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await expect.poll(() => bars(page, 0)).toEqual(['1–8']);
    // A break in bars 3 and 4: silent there, and sounding before it.
    await page.evaluate(() =>
      (window.garnetfinch.engine as unknown as { setRange(range: object | null): void }).setRange({ startBeat: 8, endBeat: 16 }),
    );
    await clip.focus();
    await page.getByRole('button', { name: 'Break in the range' }).click();
    await expect.poll(() => bars(page, 0)).toEqual(['1–2', '5–8']);
    await waitForFits(page);
    await startTap(page);
    const levelOf = async (): Promise<number> => {
      const from = await page.evaluate(() => window.tapBlocks.length);
      await page.waitForFunction((count) => window.tapBlocks.length > count + 500, from);
      const samples = await page.evaluate((count) => window.tapBlocks.slice(count + 100).flatMap(({ samples: all }) => [...all]), from);
      return toDb(rms(samples));
    };
    const seek = (beat: number) =>
      page.evaluate((at) => (window.garnetfinch.engine as unknown as { seek(to: number): void }).seek(at), beat);
    await seek(8);
    await page.locator('[data-clip]').first().focus();
    await page.keyboard.press('Space');
    // The range that goes round is the break itself.
    await page.waitForFunction(() => (window.garnetfinch.engine.store.getState() as unknown as { playing: boolean }).playing);
    expect(await levelOf()).toBeLessThan(-80);
    await page.evaluate(() =>
      (window.garnetfinch.engine as unknown as { setRange(range: object | null): void }).setRange({ startBeat: 16, endBeat: 24 }),
    );
    await seek(16);
    await expect.poll(levelOf, { timeout: 30_000 }).toBeGreaterThan(-50);
  },
);

test('several are chosen and moved together; a section comes again, is made longer by its middle, built up, and all is taken back', async ({
  page,
}) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Sections ${Date.now()}`, [
    ['Shaker 62 A', 16],
    ['Woodblock 62 A', 16],
    ['Piston A1', 16],
    ['Tambourine 62 A', 16],
  ]);
  const clips = page.locator('[data-clip]'),
    start = await tracks(page);
  await clips.nth(0).click({ position: { x: 30, y: 30 } });
  await clips.nth(1).click({ position: { x: 30, y: 30 }, modifiers: ['Shift'] });
  await expect(page.getByRole('toolbar', { name: 'Chosen clips' })).toContainText('2 clips');
  await page.keyboard.press('ArrowRight');
  await expect
    .poll(async () => [...(await bars(page, 0)), ...(await bars(page, 1)), ...(await bars(page, 2))])
    .toEqual(['2–17', '2–17', '1–16']);
  await page.keyboard.press('Control+z');
  await expect.poll(() => tracks(page)).toEqual(start);
  const section = async (name: string, item: string | RegExp) => {
    await page
      .getByRole('button', { name: new RegExp(`^${name}, section`) })
      .first()
      .click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await section('Opening', 'Again, behind itself');
  await expect(page.getByRole('button', { name: /^Opening, section/ })).toHaveCount(2);
  await expect
    .poll(async () => Math.max(...(await tracks(page)).flatMap(({ clips: all }) => all.map((each) => each.startBeat + each.lengthBeats))))
    .toBe(96);
  await page.keyboard.press('Control+z');
  await expect.poll(() => tracks(page)).toEqual(start);
  // Eight bars made ten.
  await section('Opening', /^Make it longer/);
  const dialog = page.getByRole('dialog', { name: 'How long Opening is' });
  await dialog.getByRole('spinbutton', { name: /bars; now/ }).fill('10');
  await expect(dialog.getByRole('listitem')).toHaveCount(10);
  await dialog.getByRole('button', { name: 'Make it so' }).click();
  await expect(page.getByRole('button', { name: 'Opening, section of bars 1 to 10' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Main, section of bars 11 to 18' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => tracks(page)).toEqual(start);
  // Four layers, one every two bars.
  await section('Opening', /^Build it up/);
  const build = page.getByRole('dialog', { name: 'Build Opening up' });
  await build.getByRole('spinbutton').fill('2');
  await build.getByRole('button', { name: 'Make it so' }).click();
  await expect
    .poll(async () =>
      (await tracks(page)).map(({ clips: all }) => Math.min(...all.map(({ startBeat }) => startBeat)) / 4 + 1).sort((a, b) => a - b),
    )
    .toEqual([1, 3, 5, 7]);
  await saved(page);
  // It can be taken back behind a reload too.
  await page.reload();
  await page.waitForSelector('html[data-ready=yes]');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect.poll(() => tracks(page)).toEqual(start);
});

test('the playhead over the tracks stands where the music is: while it plays, after a jump, and when it has stopped', async ({ page }) => {
  await comeIn(page);
  await pieceOf(page, `Playhead ${Date.now()}`, [['Shaker 62 A', 8]]);
  /** The beat of the music, and the one that the line stands on. */
  const seen = () =>
      page.evaluate(() => {
        const left = (selector: string) => document.querySelector<HTMLElement>(selector)!.getBoundingClientRect().left,
          beatPixels = (document.querySelector<HTMLElement>('[data-clip]')!.getBoundingClientRect().width + 1) / 32;
        return {
          beat: (window.garnetfinch.engine as unknown as { positionBeat(): number }).positionBeat(),
          drawn: (left('[data-playhead]') - left('[data-lane]')) / beatPixels,
        };
      }),
    offBeats = async () => {
      const { beat, drawn } = await seen();
      return Math.abs(beat - drawn);
    };
  // Counted in before the first bar, it waits.
  await page.evaluate(() =>
    (window.garnetfinch.engine as unknown as { setTransport(said: object): void }).setTransport({ countInBars: 1 }),
  );
  await page.evaluate(() => window.garnetfinch.engine.play());
  const waiting: number[] = [];
  for (let beat = 0; beat === 0;) {
    const now = await seen();
    if ((beat = now.beat) === 0) waiting.push(now.drawn);
  }
  expect(waiting.length).toBeGreaterThan(5);
  expect(Math.max(...waiting) - Math.min(...waiting)).toBeLessThan(1e-6);
  for (const from of [0, 12]) {
    await goToBar(page, 1 + from / 4);
    await expect.poll(async () => (await seen()).beat).toBeGreaterThan(from + 2);
    // A third of a beat is a sixth of a second: some frames late on a busy machine, and no more.
    await expect.poll(offBeats).toBeLessThan(0.33);
  }
  await page.evaluate(() => window.garnetfinch.engine.stop());
  await expect.poll(offBeats).toBeLessThan(0.02);
  await goToBar(page, 3);
  await expect.poll(async () => (await seen()).drawn).toBeCloseTo(8, 1);
});
