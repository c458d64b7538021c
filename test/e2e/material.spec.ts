import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from '@playwright/test';
import { beatWav, bringIn } from './brought';
import { comeIn, rms, startTap, test, toDb, visit } from './support';

const unique = Date.now().toString(36);

/** What a test brought in is put away after it: hundreds of loops of few titles would be found by the others. */
test.afterEach(async ({ page }) => {
  const { batches } = (await (await page.request.get('/api/v1/imports')).json()) as {
    batches: { packId: number | null; packName: string }[];
  };
  for (const { packId, packName } of batches)
    if (packId !== null && packName.endsWith(unique)) expect((await page.request.put(`/api/v1/packs/${packId}/archived`)).ok()).toBe(true);
});

test('a remix zip: found by its code, and a new project begins in its key and tempo', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const code = `RX${unique.slice(-4)}`;
  await bringIn(page, `Remix ${unique}`, [
    { path: `${code}_Drums_93_bpm.wav`, bytes: beatWav(93, 16) },
    { path: `${code}_Bass_93_bpm_Gm.wav`, bytes: beatWav(93, 16, 97.999, 0.5) },
    { path: `${code}_Keys_93_bpm_Gm.wav`, bytes: beatWav(93, 16, 391.995, 0.5) },
    { path: 'Terms.txt', bytes: new TextEncoder().encode('For the remix only.') },
  ]);
  await visit(page, '/');
  await page.locator('[data-query]').fill(code);
  const rows = page.getByRole('grid').getByRole('row');
  await expect(rows).toHaveCount(3);
  await rows.filter({ hasText: 'Bass' }).getByRole('link').first().click();
  await expect(page.locator('[data-fact=key] [data-value]')).toHaveText('G minor');
  await page.getByRole('button', { name: 'Start a project from it' }).click();
  await page.waitForURL(/\/projects\/\d+/);
  await page.waitForSelector('[data-clip]');
  const project = await page.evaluate(() => window.garnetfinch.projectStore.store.getState().project as { tempoBpm: number; key: object });
  expect(project.tempoBpm).toBeCloseTo(93, 0);
  expect(project.key).toMatchObject({ tonic: 7, mode: 'minor' });
  // It sounds, with what is in it from bar 1 on.
  await startTap(page);
  await page.evaluate(() => window.garnetfinch.engine.play());
  await page.waitForFunction(() => window.tapBlocks.length > 500);
  const heard = await page.evaluate(() => window.tapBlocks.slice(-350).flatMap(({ samples }) => [...samples]));
  expect(toDb(rms(heard))).toBeGreaterThan(-50);
});

test('a folder with what is said before: left out, tagged, described; then facts edited, tags added, all by the page', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const top = mkdtempSync(join(tmpdir(), 'garnetfinch-folder-')),
    folder = join(top, `Quay ${unique}`),
    put = (path: string, bytes: Uint8Array) => {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), bytes);
    };
  put('Loops/Rope A1.wav', beatWav(104, 16));
  put('Loops/Rope A2.wav', beatWav(104, 16, 110));
  put('Demos/whole.wav', beatWav(100, 16));
  put('licence.txt', new TextEncoder().encode('Free with credit.'));
  await visit(page, '/packs');
  await page.locator('input[webkitdirectory]').setInputFiles(folder);
  await page.getByLabel('Vendor').fill('Quay Street Keys');
  await page.getByLabel('Tags').fill('ferry');
  await page.getByRole('textbox', { name: 'Without' }).fill('demos');
  await page.getByLabel('About').fill('Ropes on a quay.');
  await page.locator('input[name=cover]').setInputFiles('docs/screenshots/library.png');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  const batch = page.locator('[data-batch]', { hasText: `Quay ${unique}` });
  await expect(batch).toHaveAttribute('data-state', 'done', { timeout: 90_000 });
  await expect(batch).toContainText('2 in, 2 documents, 1 left aside');
  rmSync(top, { recursive: true });
  await page
    .getByRole('link', { name: `Quay ${unique}`, exact: true })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1, name: `Quay ${unique}` })).toBeVisible();
  await expect(page.getByText('Ropes on a quay.')).toBeVisible();
  await expect(page.getByText('Quay Street Keys · Free with credit.')).toBeVisible();
  await expect(page.getByRole('img', { name: `Cover of Quay ${unique}` })).toHaveJSProperty('complete', true);
  await page.getByRole('link', { name: 'Show its loops' }).click();
  const grid = page.getByRole('grid'),
    rows = grid.getByRole('row');
  await expect(rows).toHaveCount(2);
  await grid.focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Edit …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Edit 2 loops' });
  await dialog.getByLabel('Change').selectOption('fact:tempo');
  await dialog.getByRole('textbox', { name: 'Another tempo' }).fill('52');
  await expect(dialog).toContainText('2 of 2 would change.');
  await dialog.getByRole('button', { name: 'Change them' }).click();
  await expect(rows.filter({ hasText: '52' })).toHaveCount(2);
  await page.getByRole('link', { name: /Rope A1/ }).click();
  await expect(page.locator('[data-fact=tempo] [data-value]')).toHaveText('52');
  await expect(page.getByText('ferry', { exact: true })).toBeVisible();
  await page.getByPlaceholder('for example: rainy').fill('wet');
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByText('wet', { exact: true })).toBeVisible();
});

test('a pack of 95 loops is judged by its demo mix and its names', async ({ page }) => {
  test.setTimeout(300_000);
  await comeIn(page);
  const kinds = [
      ['Drum Loop', 90, 0.04],
      ['Bass', 110, 0.3],
      ['Piano', 440, 0.4],
      ['Shaker', 3000, 0.02],
      ['Brass', 330, 0.3],
    ] as const,
    tempos = [88, 96, 104, 112, 120],
    packId = await bringIn(
      page,
      `Ninety-five ${unique}`,
      Array.from({ length: 95 }, (_, k) => {
        const [name, pitchHz, decay] = kinds[k % kinds.length],
          tempo = tempos[k % tempos.length];
        return { path: `${name}s/NF_${name.replace(' ', '')}_${101 + k}_${tempo}_Am.wav`, bytes: beatWav(tempo, 8, pitchHz, decay) };
      }),
    );
  await visit(page, `/packs/${packId}`);
  await expect(page.getByText(/^95 loops,/)).toBeVisible();
  // The counting number looks like a tempo; what is heard says which of the two is one.
  const names = page.locator('[data-names]').first();
  await expect(names.getByLabel('Part 4 of these names is')).toHaveValue('tempo');
  await expect(names.getByLabel('Part 3 of these names is')).toHaveValue('number');
  const began = Date.now();
  await page.getByRole('button', { name: /^Hear the demo mix/ }).click();
  await page.waitForSelector('[data-demo=done]', { timeout: 60_000 });
  await expect
    .poll(() => page.evaluate(() => document.querySelector<HTMLAudioElement>('[data-demo] audio')?.currentTime ?? 0), { timeout: 20_000 })
    .toBeGreaterThan(0.3);
  // From the wish to the sound; bounded loosely, since the machine of a test is at other work too.
  expect(Date.now() - began).toBeLessThan(45_000);
  const level = await page.evaluate(async (id) => {
    const context = new OfflineAudioContext(2, 44100, 44100),
      buffer = await context.decodeAudioData(await (await fetch(`/media/demo/${id}`)).arrayBuffer()),
      samples = buffer.getChannelData(0);
    let power = 0,
      peak = 0;
    for (const sample of samples) {
      power += sample * sample;
      peak = Math.max(peak, Math.abs(sample));
    }
    return { seconds: buffer.duration, rms: Math.sqrt(power / samples.length), peak };
  }, packId);
  expect(toDb(level.rms)).toBeGreaterThan(-45);
  expect(level.peak).toBeLessThanOrEqual(1);
  expect(level.seconds).toBeGreaterThan(28);
});

// Alone: three hundred files are heard, which takes both cores for a while.
test('the doubts of 300 files are cleared by keyboard in under 40 acts', { tag: '@alone' }, async ({ page }) => {
  test.setTimeout(600_000);
  await comeIn(page);
  const packId = await bringIn(
    page,
    `Three hundred ${unique}`,
    Array.from({ length: 300 }, (_, k) => ({ path: `Hull knocks/Knock ${k}.wav`, bytes: beatWav(70 + (k % 60), 4, 300 + k, 0.03) })),
  );
  await visit(page, `/packs/ear?pack=${packId}`);
  const list = page.locator('[data-ear-list]'),
    left = async () =>
      Number(/(\d+) facts in doubt/.exec((await page.getByText(/facts in doubt|nothing is in doubt/).textContent()) ?? '')?.[1] ?? 0),
    before = await left(),
    strip = page.locator('[data-same-for]');
  expect(before).toBeGreaterThan(20);
  let acts = 0;
  const act = async (key: string) => {
    acts++;
    // With the last doubt the list goes too, perhaps just now: what comes of a key is asked below.
    await list.press(key, { timeout: 5_000 }).catch(() => {});
  };
  while (acts < 60) {
    const now = await left();
    if (now === 0) break;
    await act('Enter');
    // What was said, or that all of them are done.
    await expect.poll(left, { timeout: 60_000 }).toBeLessThan(now);
    if ((await left()) === 0) break;
    await expect(strip).toBeVisible();
    if (await strip.getByText('Three times in').isVisible()) {
      const rest = await left(),
        more = Number(/Do it for (\d+)/.exec(await strip.innerText())?.[1]);
      await act('r');
      // They are settled one after the other, and the page shows it as it goes: the next key waits for all of them.
      await expect.poll(left, { timeout: 180_000 }).toBeLessThanOrEqual(rest - more);
    }
  }
  expect(await left()).toBe(0);
  expect(acts).toBeLessThan(40);
});
