import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { createRandom } from '../../core/synth/random';
import playwright from '../../playwright.config';
import { importFiles, rateHz, signIn, test, wavOf } from './support';

/** Struck metal: partials that fit no scale, over and over, with a little noise at each stroke. */
function struck(t: number, random: () => number): number {
  const since = t % 0.5,
    partials = [611, 1549, 2903, 4711].reduce((sum, hz, k) => sum + Math.sin(2 * Math.PI * hz * since) / (k + 1), 0);
  return Math.exp(-since * 9) * (0.25 * partials + (since < 0.02 ? 0.3 * (random() - 0.5) : 0));
}
const random = createRandom(5),
  sound = wavOf(8, (t) => struck(t, random)),
  heardByMicrophone = join(tmpdir(), `garnetfinch-microphone-${process.pid}.wav`);
writeFileSync(heardByMicrophone, sound);

const { launchOptions } = playwright.use ?? {};
test.use({
  permissions: ['microphone'],
  launchOptions: {
    ...launchOptions,
    args: [
      ...(launchOptions?.args ?? []),
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-audio-capture=${heardByMicrophone}`,
    ],
  },
});

test('a sound recorded by the microphone finds the loop that it is', async ({ page }) => {
  await signIn(page);
  expect(rateHz).toBe(44100);
  const ids = await importFiles(page.request, `Struck ${Date.now()}`, [{ path: 'Struck bars 120.wav', bytes: sound }]),
    wanted = ids.get('Struck bars 120.wav');
  expect(wanted).toBeDefined();
  await page.getByRole('button', { name: 'Like a sound' }).click();
  await page.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByRole('button', { name: 'Stop and look' })).toBeVisible();
  // Two strokes and more, by the clock of what records: the page's own sound is not open.
  const began = await page.evaluate(() => performance.now());
  await page.waitForFunction((from) => performance.now() - from > 4000, began);
  await page.getByRole('button', { name: 'Stop and look' }).click();
  await expect(page).toHaveURL(/near=sound/);
  const near = new URL(page.url()).searchParams.get('near') ?? '',
    { rows } = (await (await page.request.get(`/api/v1/loops?near=${encodeURIComponent(near)}&sort=likeness&limit=3&in=none`)).json()) as {
      rows: { id: number }[];
    };
  expect(rows.map(({ id }) => id)).toContain(wanted);
});
