import { readFile } from 'node:fs/promises';
import { expect } from '@playwright/test';
import { parseWav } from '../../core/formats/wav/parse';
import { unzipped } from '../generators/unzipped';
import { beatWav, bringIn } from './brought';
import { mixdownOf } from './mixdown';
import { pieceOf, tracksOf } from './piece';
import { comeIn, test } from './support';

test('a piece is handed over as a zip: a stem a track beside the mixdown, which they sum up to', async ({ page }) => {
  const name = `Handed over ${Date.now().toString(36)}`;
  await comeIn(page);
  await pieceOf(page, name, [
    ['Shaker 62 A', 4],
    ['Bass Fingered 05', 8],
  ]);
  const names = (await tracksOf(page)).map((track, k) => `0${k + 1} ${track.name}`),
    panel = page.getByRole('region', { name: 'Export' });
  await expect(panel.getByRole('button', { name: 'Export WAV' })).toBeVisible();
  await panel.getByLabel('What goes out').selectOption('stems');
  await expect(panel).toContainText('side by side they are the mixdown');
  await panel.getByLabel('Bits').selectOption('32');
  await panel.getByRole('button', { name: 'Export zip' }).click();
  await expect(panel.locator('[data-export-state="done"]')).toBeVisible({ timeout: 90_000 });
  await expect(panel).toContainText('2 stems, notes of 1 track.');
  const loading = page.waitForEvent('download');
  await panel.getByRole('link', { name: 'Zip, 32 bit' }).click();
  const download = await loading;
  expect(download.suggestedFilename()).toBe(`${name}, stems (32 bit, 44.1 kHz).zip`);
  const files = await unzipped(await readFile(await download.path())),
    soundOf = (path: string) => parseWav(new Uint8Array(files.get(`${name}/${path}`) as Buffer)).channels;
  expect([...files.keys()]).toEqual(
    [...names.map((each) => `Stems/${each}.wav`), 'Mixdown.wav', `Notes/${names[1]}.mid`, 'Used loops.txt'].map(
      (path) => `${name}/${path}`,
    ),
  );
  // What goes out by itself is the same, and the stems sum up to it.
  const { channels } = await mixdownOf(page, { bits: 32, rateHz: 44100 }),
    mix = soundOf('Mixdown.wav'),
    stems = names.map((each) => soundOf(`Stems/${each}.wav`));
  for (const side of [0, 1]) {
    expect(mix[side]).toHaveLength(channels[side].length);
    let most = 0;
    for (let i = 0; i < channels[side].length; i++)
      most = Math.max(
        most,
        Math.abs(mix[side][i] - channels[side][i]),
        Math.abs(stems[0][side][i] + stems[1][side][i] - channels[side][i]),
      );
    expect(most).toBeLessThan(1e-6);
  }
  for (const stem of stems) expect(stem[0].some((value) => Math.abs(value) > 0.01)).toBe(true);
});

test('which loops of a piece may come out is seen before it goes out: those to look at first', async ({ page }) => {
  const stamp = Date.now().toString(36);
  await comeIn(page);
  const packId = await bringIn(page, `Unsaid ${stamp}`, [{ path: `Weir ${stamp}.wav`, bytes: beatWav(124, 8) }]),
    project = `Cleared ${stamp}`;
  await pieceOf(page, project, [
    ['Shaker 62 A', 4],
    [`Weir ${stamp}`, 4],
  ]);
  const panel = page.getByRole('dialog', { name: 'Used loops, and which are cleared for release' }),
    line = panel.locator('[data-used]').first(),
    open = () => page.getByRole('button', { name: 'Used loops, and which are cleared for release' }).click();
  await open();
  await expect(panel.locator('[data-used]')).toHaveCount(2);
  await expect(line).toContainText(`Weir ${stamp}`);
  await expect(line).toContainText('no licence stated');
  await expect(panel).toContainText('1 to be asked about');
  // Asked about: the vendor answers.
  expect((await page.request.put(`/api/v1/packs/${packId}`, { form: { licence: 'Non-commercial' } })).ok()).toBe(true);
  await page.keyboard.press('Escape');
  await open();
  await expect(line).toContainText('not for commercial work');
  await expect(panel).toContainText('1 not cleared for release');
  expect(
    await (await page.request.get((await panel.getByRole('link', { name: 'The list as text' }).getAttribute('href')) ?? '')).text(),
  ).toMatch(new RegExp(`^${project}[\\s\\S]*licence: Non-commercial`));
});

test('what takes long says how far it is, and is stopped by a press', async ({ page }) => {
  await comeIn(page);
  await pieceOf(page, `Long ${Date.now().toString(36)}`, [
    ['Shaker 62 A', 400],
    ['Bass Fingered 05', 400],
  ]);
  const panel = page.getByRole('region', { name: 'Export' });
  await panel.getByLabel('What goes out').selectOption('stems');
  await panel.getByLabel('Rate').selectOption('48000');
  await panel.getByRole('button', { name: 'Export zip' }).click();
  await expect(panel.getByRole('progressbar', { name: 'How far it is' })).toBeVisible();
  await expect.poll(() => panel.getByRole('progressbar').evaluate((bar: HTMLProgressElement) => bar.value)).toBeGreaterThan(0);
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(panel.locator('[data-export-state="stopped"]')).toContainText('stopped');
  await expect(panel.getByRole('progressbar')).toHaveCount(0);
  await expect(panel.getByRole('button', { name: 'Export zip' })).toBeEnabled();
});
