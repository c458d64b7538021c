import { expect } from '@playwright/test';
import { mixdownFrom } from '../mixdown';
import { barsOf, dragRange, levelsOf, loopFor, pieceOf, saved, takeClip, tracksOf } from '../piece';
import { comeIn, rms, test, toDb, waitForFits, wholeRows } from '../support';

test('four layers come in every four bars, and a riser lands on bar 17', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(
    page,
    `Walk build-up ${Date.now()}`,
    [
      ['Shaker 62 A', 16],
      ['Tambourine 62 A', 16],
      ['Bass Fingered 05', 16],
      ['Piston A1', 16],
    ],
    { sectionBars: [16, 8] },
  );
  await page.getByRole('button', { name: /^Opening, section/ }).click();
  await page.getByRole('menuitem', { name: 'Build it up …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Build Opening up' });
  await dialog.getByRole('spinbutton').fill('4');
  await dialog.getByRole('button', { name: 'Make it so' }).click();
  await expect(dialog).toBeHidden();
  const starts = async () => (await Promise.all([0, 1, 2, 3].map((track) => barsOf(page, track)))).flat().sort();
  await expect.poll(starts).toEqual(['13–16', '1–16', '5–16', '9–16']);
  // The riser, placed to land there.
  const { id } = await loopFor(page, 'Riser 03'),
    [row] = await wholeRows(page.request, `id=${id}`);
  await page.evaluate((found) => {
    void window.garnetfinch.engine.audition.start(found);
  }, row);
  await page.getByRole('button', { name: 'Place …' }).click();
  const place = page.getByRole('dialog', { name: /^Place/ });
  await place.getByLabel('Lands at bar').fill('17');
  await place.getByRole('button', { name: 'Place', exact: true }).click();
  await expect(place).toBeHidden();
  await saved(page);
  const riser = (await tracksOf(page)).at(-1)?.clips[0];
  expect((riser?.startBeat ?? 0) + (riser?.landsAfterBeats ?? NaN)).toBeCloseTo(64, 6);
  // Alone: it rises up to the line, and behind it only rings.
  await page.getByRole('button', { name: /^Solo Riser/ }).click();
  await page.evaluate(() => (window.garnetfinch.engine as unknown as { audition: { stop(): void } }).audition.stop());
  const [left] = await mixdownFrom(page, 56, 16, 124),
    line = left.length / 2,
    level = (from: number, to: number) => toDb(rms(left, Math.round(line + from * 44100), Math.round(line + to * 44100)));
  expect(level(-0.3, 0)).toBeGreaterThan(level(-2.5, -2) + 3);
  expect(level(0.3, 1)).toBeLessThan(level(-0.3, 0) - 15);
  expect(level(-0.05, 0)).toBeGreaterThan(-50);
});

test('four tracks, fifteen seconds, level and pan: what is on the left is heard there, and what is softer is softer', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk mix ${Date.now()}`, [
    ['Shaker 62 A', 8],
    ['Bass Fingered 05', 8],
    ['Piano Chords 01', 8],
    ['Piston A1', 8],
  ]);
  const [before] = await mixdownFrom(page, 0, 8, 124);
  const slide = async (name: string, keys: readonly string[]) => {
    await page.getByLabel(name, { exact: true }).focus();
    for (const key of keys) await page.keyboard.press(key);
    await saved(page);
  };
  const names = (await tracksOf(page)).map(({ name }) => name);
  await slide(`Pan of ${names[0]}`, ['Home']);
  for (const name of names.slice(1)) await page.getByRole('button', { name: `Mute ${name}`, exact: true }).click();
  const [left, right] = await mixdownFrom(page, 0, 8, 124);
  expect(toDb(rms(left))).toBeGreaterThan(-60);
  expect(toDb(rms(right))).toBeLessThan(toDb(rms(left)) - 40);
  await slide(
    `Gain of ${names[0]}, dB`,
    Array.from({ length: 12 }, () => 'ArrowLeft'),
  );
  const [softer] = await mixdownFrom(page, 0, 8, 124);
  expect(toDb(rms(left)) - toDb(rms(softer))).toBeCloseTo(6, 0);
  for (const name of names.slice(1)) await page.getByRole('button', { name: `Mute ${name}`, exact: true }).click();
  // All of it: eight bars are fifteen seconds and a half at 124.
  const [all] = await mixdownFrom(page, 0, 8, 124);
  expect(toDb(rms(all))).toBeGreaterThan(toDb(rms(softer)) + 3);
  expect(toDb(rms(before))).toBeGreaterThan(-50);
});

test('a version is kept, the piece changed, the old one heard and brought back; an end goes down to nothing', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(
    page,
    `Walk version ${Date.now()}`,
    [
      ['Piston A1', 8],
      ['Shaker 62 A', 8],
    ],
    { tempoBpm: 200 },
  );
  await page.getByRole('button', { name: /^Versions/ }).click();
  await page.getByLabel('Name of the version').fill('as it was');
  await page.getByRole('button', { name: 'Keep as it is now' }).click();
  await expect(page.getByRole('button', { name: /as it was/ })).toBeVisible();
  await page.keyboard.press('Escape');
  const before = await tracksOf(page);
  // The end goes down over its last four bars, by the handle.
  await page.getByRole('button', { name: 'Zoom to all' }).click();
  await takeClip(page, 0, 1);
  const box = await page.locator('[data-clip="clip-0"]').boundingBox();
  if (!box) throw new Error('no clip');
  await page.mouse.move(box.x + box.width - 5, box.y + 22);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 60, box.y + 22);
  await page.mouse.move(box.x + box.width / 2 - 1, box.y + 22);
  await page.mouse.up();
  await expect.poll(async () => (await tracksOf(page))[0].clips[0].fadeOutBeats).toBeCloseTo(16, 0);
  await takeClip(page, 1, 1);
  await page.keyboard.press('Delete');
  const [left] = await mixdownFrom(page, 0, 32, 200),
    bars = levelsOf(left, 8);
  expect(Math.abs(bars[0] - bars[3])).toBeLessThan(3);
  expect(bars[7]).toBeLessThan(bars[3] - 10);
  // Quarter of a sine: three decibels down in the middle of it.
  expect(bars[3] - (bars[5] + bars[6]) / 2).toBeLessThan(8);
  await page.getByRole('button', { name: /^Versions/ }).click();
  await page.getByRole('button', { name: /as it was/ }).click();
  await expect(page.getByText('1 clip gone')).toBeVisible();
  await page.getByRole('button', { name: 'Hear it as it was' }).click();
  await waitForFits(page);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect.poll(() => tracksOf(page)).toEqual(before);
  // Forgotten by a slip of the hand it is there again.
  await page.getByRole('button', { name: 'Forget it', exact: true }).click();
  await expect(page.getByRole('button', { name: /as it was/ })).toHaveCount(0);
  await page.getByText('Forgot “as it was”.').locator('..').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Versions: 1' })).toBeVisible();
});

test('a range dragged on the bar numbers becomes a section; a section’s clips are chosen and silenced by one key', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk sections ${Date.now()}`, [['Shaker 62 A', 16]]);
  await dragRange(page, 5, 9);
  await page.getByRole('button', { name: 'A section of the range' }).click();
  await expect(page.getByRole('button', { name: 'New section, section of bars 5 to 8' })).toBeVisible();
  await page.getByRole('button', { name: 'No range' }).click();
  await page.getByRole('button', { name: 'New section, section of bars 5 to 8' }).click();
  await page.getByRole('menuitem', { name: 'Call it otherwise …' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Bridge');
  await page.getByRole('dialog').getByRole('button', { name: 'Make it so' }).click();
  await takeClip(page, 0, 1);
  await page
    .locator('[data-clip]')
    .first()
    .click({ button: 'right', position: { x: 20, y: 30 } });
  await page.getByRole('menuitem', { name: 'Cut at the lines of sections' }).click();
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–4', '5–8', '9–16']);
  await page.getByRole('button', { name: 'Bridge, section of bars 5 to 8' }).click();
  await page.getByRole('menuitem', { name: 'Choose its clips' }).click();
  await expect(page.getByRole('toolbar', { name: 'Chosen clips' })).toContainText('1 clip');
  await page.getByRole('toolbar', { name: 'Chosen clips' }).getByRole('button', { name: 'Mute', exact: true }).click();
  const [left] = await mixdownFrom(page, 12, 12, 124),
    [one, two, three] = levelsOf(left, 3);
  expect(one).toBeGreaterThan(-55);
  expect(three).toBeLessThan(-80);
  expect(two).toBeLessThan(one - 12);
});
