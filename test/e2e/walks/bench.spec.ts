import { expect, type Page } from '@playwright/test';
import { parseWav } from '../../../core/formats/wav/parse';
import { addStep, benchReady, saveAs } from '../bench';
import { accounts, comeIn, rateHz, rms, test, toDb, visit, wavOf, wholeRows } from '../support';

/** The file of a loop, as it is in the library. */
const fileOf = async (page: Page, loopId: number): Promise<readonly Float32Array[]> =>
    parseWav(new Uint8Array(await (await page.request.get(`/media/file/${loopId}`)).body())).channels,
  /** The sound that is heard of a loop, at the rate of the project. */
  soundOf = async (page: Page, soundSha: string): Promise<readonly Float32Array[]> =>
    parseWav(new Uint8Array(await (await page.request.get(`/media/sound/${soundSha}`)).body())).channels;

interface Row {
  readonly id: number;
  readonly title: string;
  readonly bars: number | null;
  readonly source: {
    readonly soundSha: string;
    readonly startFrame: number;
    readonly tempoBpm: number;
    readonly beats: number;
    readonly soundFrames: number;
  };
}

/** Draws a handle over the wave to a share of what is in view. */
async function dragTo(page: Page, label: string, share: number): Promise<void> {
  const handle = page.getByRole('slider', { name: label }),
    from = await handle.boundingBox(),
    around = await handle.evaluate((node) => {
      const { left, width } = (node.parentElement as HTMLElement).getBoundingClientRect();
      return { left, width };
    });
  if (!from) throw new Error(`no handle ${label}`);
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(around.left + share * around.width - 12, from.y + from.height / 2);
  await page.mouse.move(around.left + share * around.width, from.y + from.height / 2);
  await page.mouse.up();
}

test('two bars of a longer loop are taken on the bench, and are those two bars to the sample', async ({ page }) => {
  test.slow();
  await comeIn(page, accounts[1]);
  const stamp = Date.now().toString(36),
    found = (await wholeRows(page.request, 'q=piston&kind=loop&limit=30&sort=title&in=none')) as unknown as Row[],
    row = found.find(({ bars, source }) => bars === 4 && source.startFrame === 0);
  if (!row) throw new Error('no loop of four bars');
  await visit(page, `/workbench/${row.id}`);
  await benchReady(page);
  await addStep(page, /^Part/);
  await page.getByLabel('Handles snap to').selectOption('bar');
  const barFrames = (4 * 60 * rateHz) / row.source.tempoBpm;
  await dragTo(page, 'Where it ends', (4 * barFrames) / row.source.soundFrames);
  await dragTo(page, 'Where it starts', (2 * barFrames) / row.source.soundFrames);
  await benchReady(page);
  const at = async (label: string) => Number(await page.getByRole('slider', { name: label }).getAttribute('aria-valuenow'));
  expect(Math.abs((await at('Where it starts')) - 2 * barFrames)).toBeLessThan(2);
  const loopId = await saveAs(page, `Half of it ${stamp}`, `Ours, parts ${stamp}`),
    [made] = (await wholeRows(page.request, `id=${loopId}`)) as unknown as Row[],
    [part] = await fileOf(page, loopId),
    [whole] = await soundOf(page, row.source.soundSha),
    start = await at('Where it starts').catch(() => Math.round(2 * barFrames));
  expect(made.source.beats).toBe(8);
  expect(Math.abs(made.source.tempoBpm - row.source.tempoBpm)).toBeLessThan(0.05);
  const [from, to] = [Math.round(0.2 * part.length), Math.round(0.8 * part.length)],
    apart = part.slice(from, to).map((value, i) => value - whole[Math.round(start) + from + i]);
  expect(toDb(rms(apart) / rms(part, from, to))).toBeLessThan(-60);
});

test('a player who is early and late is drawn onto the grid, and every hit lies on it', async ({ page }) => {
  test.slow();
  await comeIn(page, accounts[1]);
  const stamp = Date.now().toString(36),
    beat = 60 / 108,
    // Eight beats, each off by up to 28 thousandths.
    off = [0, 0.021, -0.018, 0.026, -0.024, 0.012, 0.028, -0.02],
    starts = off.map((by, k) => k * beat + by),
    sound = wavOf(8 * beat, (t) => {
      const k = starts.findLastIndex((start) => t >= start),
        into = t - starts[k];
      return 0.6 * Math.min(1, into * 2000) * Math.exp(-into * 22) * Math.sin(2 * Math.PI * (k % 2 === 0 ? 110 : 240) * into);
    });
  await visit(page, '/workbench');
  await page
    .getByLabel('A sound for the workbench')
    .setInputFiles({ name: `Hands ${stamp}.wav`, mimeType: 'audio/wav', buffer: Buffer.from(sound) });
  await page.waitForURL(/\/workbench\/\d+/, { timeout: 60_000 });
  await benchReady(page);
  await addStep(page, /^Part/);
  await page.getByRole('region', { name: 'Part' }).getByLabel('Fits bars').fill('2');
  await page.keyboard.press('Enter');
  await benchReady(page);
  await addStep(page, /^Onto the grid/);
  await page.getByRole('combobox', { name: 'Grid' }).selectOption('1');
  await benchReady(page);
  const loopId = await saveAs(page, `Hands on time ${stamp}`, `Ours, hands ${stamp}`),
    [plane] = await fileOf(page, loopId),
    beatFrames = plane.length / 8;
  for (let k = 1; k < 8; k++) {
    // Where a millisecond is first a third as loud as the hit becomes.
    const line = Math.round(k * beatFrames),
      loud = (ms: number) => rms(plane, line + Math.round((ms * rateHz) / 1000), line + Math.round(((ms + 1) * rateHz) / 1000)),
      all = Array.from({ length: 80 }, (_, n) => n - 35),
      top = Math.max(...all.map(loud)),
      quiet = loud(-35),
      begins = all.find((ms) => loud(ms) > Math.max(top / 3, quiet * 3)) ?? NaN;
    expect(Math.abs(begins)).toBeLessThanOrEqual(4);
  }
});
