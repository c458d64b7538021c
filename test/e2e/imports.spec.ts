import { expect, type Page } from '@playwright/test';
import { writeSmf } from '../../core/formats/smf/write';
import { signIn, test, wavOf, zipOf } from './support';

/** A four-on-the-floor at 120: hits with a decaying tone, a little different each time, since the library knows a file it has seen. */
const beatWav = (bars: number): Uint8Array => {
  const level = 0.5 + Math.random() * 0.2;
  return wavOf(bars * 2, (t) => {
    const since = t % 0.5;
    return level * Math.exp(-since / 0.04) * Math.sin(2 * Math.PI * 90 * since * (1 + 2 * Math.exp(-since / 0.01)));
  });
};
/** Rows of the library's list. */
const loopRows = (page: Page) => page.getByRole('grid').getByRole('row');
const unique = Date.now().toString(36);

test('a vendor’s zip comes in: good files are known, bad ones say why, nothing escapes', async ({ page }) => {
  const { name } = await signIn(page);
  await page.getByRole('link', { name: 'Packs' }).click();
  const good = beatWav(2);
  const zip = await zipOf([
    { path: `Loops/Pier Kick ${unique} 120bpm.wav`, bytes: good },
    { path: 'Loops/Half a file.wav', bytes: good.slice(0, 30_000) },
    { path: 'Loops/Nothing.wav', bytes: new Uint8Array(0) },
    { path: 'Loops/A page.wav', bytes: new TextEncoder().encode('<!doctype html>') },
    {
      path: `MIDI/Pier Bass ${unique}.mid`,
      bytes: writeSmf({
        notes: [0, 1, 2, 3].map((beat) => ({
          startBeat: beat,
          lengthBeats: 0.9,
          pitch: [38, 38, 41, 45][beat],
          velocity: 60 + Math.floor(Math.random() * 60),
          channel: 0,
        })),
        lengthBeats: 4,
        tempoBpm: 110,
        meter: '4/4',
        program: 33,
      }),
    },
    { path: 'Licence.txt', bytes: new TextEncoder().encode('Free for our test.') },
    { path: '__MACOSX/._x.wav', bytes: new Uint8Array([1]) },
  ]);
  await page.locator('[data-choose-files]').setInputFiles({ name: `Pier ${unique}.zip`, mimeType: 'application/zip', buffer: zip });
  await page.getByLabel('Vendor').fill('Tin Roof Kits');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  const batch = page.locator('[data-batch]', { hasText: `Pier ${unique}` });
  await expect(batch).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
  await expect(batch).toContainText('2 in, 3 could not be read');
  await batch.getByRole('button', { expanded: false }).click();
  const files = batch.getByLabel('Files of this import');
  await expect(files).toContainText('cut off');
  await expect(files).toContainText('The file is empty (0 bytes)');
  await expect(files).toContainText('not a sound file');
  await expect(page.locator('li', { hasText: `Pier ${unique}` }).first()).toContainText('Free for our test.');
  // It is found, and what is known of it is right.
  await batch.getByRole('link', { name: 'show' }).click();
  await expect(loopRows(page)).toHaveCount(2);
  await page.getByRole('link', { name: /Pier Kick/ }).click();
  await expect(page.locator('[data-fact=tempo] [data-value]')).toHaveText('120');
  await expect(page.locator('[data-fact=beats] [data-value]')).toHaveText('8 beats, 2 bars');
  // A person's word: double time is one click away, and stays.
  await page.locator('[data-fact=tempo]').getByRole('button', { name: /^60/ }).click();
  await expect(page.locator('[data-fact=tempo] [data-value]')).toHaveText('60');
  await page.reload();
  await page.waitForSelector('html[data-ready=yes]');
  await expect(page.locator('[data-fact=tempo]')).toContainText(`corrected by ${name}`);
  await page.getByRole('button', { name: 'take back' }).click();
  await expect(page.locator('[data-fact=tempo] [data-value]')).toHaveText('120');
  // The whole import is taken back, and comes back.
  await page.getByRole('link', { name: 'Packs' }).click();
  await batch.getByRole('button', { name: 'take back' }).click();
  await expect(batch).toContainText('taken back');
  await batch.getByRole('button', { name: 'bring back' }).click();
  await expect(batch).toContainText('done');
});

test('an upload that is stopped leaves no trace', async ({ page }) => {
  await signIn(page);
  const opened = (await (await page.request.post('/api/v1/imports', { form: { intent: 'open', packName: 'Never' } })).json()) as {
      batchId: number;
    },
    // Others bring things in meanwhile: looked for is this one, among those under way and those that can be gone on with.
    isThere = async () => {
      const { batches, open } = (await (await page.request.get('/api/v1/imports')).json()) as Record<'batches' | 'open', { id: number }[]>;
      return [...batches, ...open].some(({ id }) => id === opened.batchId);
    };
  await page.request.put(`/api/v1/imports/${opened.batchId}/files?path=a.wav`, { data: Buffer.from(beatWav(1)) });
  expect(await isThere()).toBe(true);
  await page.request.post('/api/v1/imports', { form: { intent: 'drop', batchId: String(opened.batchId) } });
  expect(await isThere()).toBe(false);
  expect((await page.request.put(`/api/v1/imports/${opened.batchId}/files?path=b.wav`, { data: Buffer.from(beatWav(1)) })).status()).toBe(
    409,
  );
});
