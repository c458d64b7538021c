import { expect } from '@playwright/test';
import { accounts, correct, importFiles, rowOf, signIn, test, wavOf } from './support';

/** A four-on-the-floor at 120: hits with a decaying tone, a little different each time, since the library knows a file it has seen. */
const beatWav = (bars: number): Uint8Array => {
  const level = 0.5 + Math.random() * 0.2;
  return wavOf(bars * 2, (t) => {
    const since = t % 0.5;
    return level * Math.exp(-since / 0.04) * Math.sin(2 * Math.PI * 90 * since * (1 + 2 * Math.exp(-since / 0.01)));
  });
};
const unique = Date.now().toString(36);

test('strangers see nothing: pages lead to sign in, data and media answer 401, wrong passwords wait', async ({ page }) => {
  await page.goto('/packs');
  await expect(page).toHaveURL(/sign-in\?to=%2Fpacks/);
  for (const address of ['/api/v1/loops', '/events', `/media/sound/${'0'.repeat(64)}`, '/media/file/1'])
    expect((await page.request.get(address)).status()).toBe(401);
  expect(
    (
      await page.request.put('/api/v1/loops/archived', {
        form: { loopId: '1' },
        headers: { Origin: 'http://elsewhere.example' },
      })
    ).status(),
  ).toBe(403);
  const name = `Nobody ${unique}`;
  for (let attempt = 0; attempt < 6; attempt++)
    expect((await page.request.post('/sign-in', { form: { name, password: 'wrong' } })).status()).toBe(401);
  expect((await page.request.post('/sign-in', { form: { name, password: 'wrong' } })).status()).toBe(429);
  expect(
    (await page.request.post('/sign-in', { form: { name: accounts[0].name, password: accounts[0].password }, maxRedirects: 0 })).headers()[
      'set-cookie'
    ],
  ).toMatch(/HttpOnly; SameSite=Lax/);
});

test('sounds are served in ranges, to be kept for good', async ({ page }) => {
  await signIn(page);
  const ids = await importFiles(page.request, `Ranges ${unique}`, [{ path: `Range ${unique}.wav`, bytes: beatWav(1) }]);
  const [id] = ids.values();
  const { source } = (await rowOf(page.request, id)) as { source: { soundSha: string } };
  const address = `/media/sound/${source.soundSha}`,
    whole = await (await page.request.get(address)).body();
  const part = await page.request.get(address, { headers: { Range: 'bytes=100-199' } });
  expect(part.status()).toBe(206);
  expect(Buffer.compare(await part.body(), whole.subarray(100, 200))).toBe(0);
  expect((await page.request.get(address, { headers: { Range: 'bytes=-50' } })).headers()['content-range']).toBe(
    `bytes ${whole.length - 50}-${whole.length - 1}/${whole.length}`,
  );
  expect((await page.request.get(address, { headers: { Range: `bytes=${whole.length}-` } })).status()).toBe(416);
  expect((await page.request.get(address)).headers()['cache-control']).toContain('immutable');
  await correct(page.request, id, 'instrument', 'kick');
});
