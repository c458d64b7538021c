import { expect, type APIRequestContext } from '@playwright/test';
import { comeIn, signIn, test, visit, wavOf } from './support';

const unique = Date.now().toString(36);
/** Four bars of clicks that no earlier run has sent. */
const loop = (tempo: number): Buffer =>
  Buffer.from(
    wavOf((16 * 60) / tempo, (t) => (((t * tempo) / 60) % 1 < 0.05 ? (0.3 + (Date.now() % 1000) / 5000) * Math.sin(t * 3000) : 0)),
  );
const encoded = (text: string): string => Buffer.from(text).toString('base64');
const tus = { 'Tus-Resumable': '1.0.0' };

async function openBatch(request: APIRequestContext, packName: string): Promise<number> {
  return ((await (await request.post('/api/v1/imports', { form: { intent: 'open', packName } })).json()) as { batchId: number }).batchId;
}
const begin = (request: APIRequestContext, batchId: number, path: string, bytes: number) =>
  request.post('/api/v1/uploads', {
    headers: { ...tus, 'Upload-Length': String(bytes), 'Upload-Metadata': `batchId ${encoded(String(batchId))},path ${encoded(path)}` },
  });
const send = (request: APIRequestContext, place: string, offset: number, part: Buffer) =>
  request.patch(place, {
    headers: { ...tus, 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
    data: part,
  });

test('an upload goes on where it broke off, by the open protocol, and nobody else goes on with it', async ({ page, browser }) => {
  await signIn(page);
  const batchId = await openBatch(page.request, `Resumed ${unique}`),
    bytes = loop(101),
    half = Math.floor(bytes.length / 2),
    created = await begin(page.request, batchId, 'resumed 101 bpm.wav', bytes.length);
  expect(created.status()).toBe(201);
  const place = created.headers().location;
  expect((await send(page.request, place, 0, bytes.subarray(0, half))).status()).toBe(204);
  const there = await page.request.head(place, { headers: tus });
  expect(there.headers()['upload-offset']).toBe(String(half));
  // At a wrong place, by a stranger and by somebody else nothing is taken.
  expect((await send(page.request, place, 5, bytes.subarray(5))).status()).toBe(409);
  const stranger = await browser.newContext();
  expect((await stranger.request.head(place, { headers: tus })).status()).toBe(401);
  const other = await stranger.newPage();
  await signIn(other, { name: 'Wren Adeyemi', password: 'open-water-84' });
  expect((await send(other.request, place, half, bytes.subarray(half))).status()).toBe(409);
  await stranger.close();
  expect((await send(page.request, place, half, bytes.subarray(half))).status()).toBe(204);
  await page.request.post('/api/v1/imports', { form: { intent: 'start', batchId: String(batchId) } });
  await visit(page, '/packs');
  const batch = page.locator(`[data-batch="${batchId}"]`);
  await expect(batch).toHaveAttribute('data-state', 'done', { timeout: 30_000 });
  await expect(batch).toContainText('1 in');
  expect((await begin(page.request, batchId, 'late.wav', 10)).status()).toBe(409);
});

test('held and gone on with, left by a closed page and taken up again with the same files', async ({ page }) => {
  await comeIn(page);
  await visit(page, '/packs');
  const files = [102, 104, 106, 108].map((tempo) => ({
    name: `kept ${unique} ${tempo} bpm.wav`,
    mimeType: 'audio/wav',
    buffer: loop(tempo),
  }));
  // The last file does not get through.
  let stuck = true;
  await page.route('**/api/v1/uploads/*', async (route) => {
    const isLast = stuck && route.request().method() === 'PATCH' && (await blockedNow());
    if (isLast) await route.abort('connectionreset');
    else await route.continue();
  });
  let patches = 0;
  const blockedNow = () => Promise.resolve(++patches > 3);
  await page.locator('[data-choose-files]').setInputFiles(files);
  await page.locator('input[name=packName]').fill(`Kept ${unique}`);
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  const transfer = page.locator('[data-transfer]').filter({ hasText: `Kept ${unique}` });
  await expect(transfer).toContainText('3 of 4 files');
  await transfer.getByRole('button', { name: 'Hold' }).click();
  await expect(transfer).toHaveAttribute('data-transfer', 'paused');
  // The page is closed in the middle.
  await page.reload();
  await page.waitForSelector('html[data-ready=yes]');
  const left = page.getByRole('region', { name: 'Not finished' });
  await expect(left).toContainText('3 files have arrived');
  stuck = false;
  await page.locator('[data-choose-files]').setInputFiles(files);
  await left.getByRole('button', { name: 'Go on with it' }).first().click();
  const batch = page.locator('[data-batch]').filter({ hasText: `Kept ${unique}` });
  await expect(batch).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
  await expect(batch).toContainText('4 in');
});
