import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { createRandom } from '../../core/synth/random';
import playwright from '../../playwright.config';
import { parseWav } from '../../core/formats/wav/parse';
import {
  comeIn,
  importFiles,
  makeProject,
  originOf,
  rateHz,
  rms,
  signIn,
  test,
  toDb,
  visit,
  waitForFrame,
  wavOf,
  wholeRows,
} from './support';

/** Struck metal: partials that fit no scale, over and over, with a little noise at each stroke. */
function struck(t: number, random: () => number): number {
  const since = t % 0.5,
    partials = [611, 1549, 2903, 4711].reduce((sum, hz, k) => sum + Math.sin(2 * Math.PI * hz * since) / (k + 1), 0);
  return Math.exp(-since * 9) * (0.25 * partials + (since < 0.02 ? 0.3 * (random() - 0.5) : 0));
}
const random = createRandom(5),
  sound = wavOf(8, (t) => struck(t, random)),
  heardByMicrophone = join(tmpdir(), 'garnetfinch-microphone.wav');
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

test('a sound recorded by the microphone finds the loop that it is', { tag: '@alone' }, async ({ page }) => {
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

test(
  'recorded over the project: counted in, the take begins with its first beat, at its tempo, and lies on the bench',
  { tag: '@alone' },
  async ({ page }) => {
    await comeIn(page);
    await makeProject(page, `Recorded over ${Date.now()}`, 120);
    await visit(page, '/workbench');
    await page.getByRole('button', { name: /^Count-in/ }).click();
    await page.getByRole('button', { name: /^Record over/ }).click();
    await expect(page.getByText(/ms late; that is taken off/)).toBeVisible();
    const { originFrame } = await originOf(page),
      begins = await page.evaluate(() => window.garnetfinch.engine.context.currentTime * 44100);
    // A bar is counted in.
    expect(originFrame - begins).toBeGreaterThan(30_000);
    await waitForFrame(page, originFrame + 4 * rateHz);
    await page.getByRole('button', { name: 'Stop, and onto the bench' }).click();
    await page.waitForURL(/\/workbench\/\d+/, { timeout: 60_000 });
    const loopId = Number(/workbench\/(\d+)/.exec(page.url())?.[1]),
      [row] = (await wholeRows(page.request, `id=${loopId}`)) as unknown as {
        lengthSeconds: number;
        packName: string;
        source: { tempoBpm: number | null; startFrame: number };
      }[];
    expect(row.packName).toBe('Recorded and dropped');
    expect(row.lengthSeconds).toBeGreaterThan(3.9);
    expect(row.lengthSeconds).toBeLessThan(6);
    expect(row.source.tempoBpm).toBe(120);
    expect(row.source.startFrame).toBe(0);
    // What was heard is in it.
    const wav = parseWav(new Uint8Array(await (await page.request.get(`/media/file/${loopId}`)).body()));
    expect(toDb(rms(wav.channels[0]))).toBeGreaterThan(-50);
  },
);
