import { expect, type Page } from '@playwright/test';
import { parseWav } from '../../core/formats/wav/parse';
import {
  comeIn,
  correct,
  importFiles,
  makeProject,
  openProject,
  originOf,
  rateHz,
  readTap,
  rms,
  rowOf,
  startTap,
  test,
  toDb,
  waitForFits,
  waitForFrame,
  wavOf,
} from './support';

/** Frames of a bar of 4/4, not whole in general. */
const barFrames = (tempo: number): number => (4 * 60 * rateHz) / tempo;

async function audition(page: Page, row: object): Promise<void> {
  await page.evaluate((wanted) => window.garnetfinch.engine.audition.start(wanted), row);
}

test(
  'the exported mixdown equals the live sound to below −60 dB, and a candidate over it begins within 1 ms of the bar line',
  { tag: '@alone' },
  async ({ page }) => {
    await comeIn(page);
    await openProject(page, 'Engine Room');
    // What is exported: another than what may stand there already.
    const shown = () => page.evaluate(() => document.querySelector('[data-export-id]')?.getAttribute('data-export-id') ?? null),
      earlierId = await shown();
    await page.getByRole('button', { name: 'Export WAV' }).click();
    await page.waitForFunction(
      (earlier) => {
        const line = document.querySelector('[data-export-state=done]');
        return line !== null && line.getAttribute('data-export-id') !== earlier;
      },
      earlierId,
      { timeout: 90_000 },
    );
    const exportId = await shown();
    const mixdown = parseWav(new Uint8Array(await (await page.request.get(`/media/export/${exportId}`)).body()));
    expect(mixdown.bits).toBe(24);
    // What is heard
    await startTap(page);
    await waitForFits(page);
    await page.keyboard.press('Home');
    await page.keyboard.press('Space');
    const { originFrame } = await originOf(page),
      origin = Math.round(originFrame),
      length = Math.round(barFrames(124) * 7);
    const [, candidate] = [null, await rowOf(page.request, await idOf(page, 'NPB Flute 124 Dm.wav'))];
    await waitForFrame(page, origin + barFrames(124) * 7.2);
    await audition(page, candidate);
    await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
    const until = Math.round(barFrames(124) * 12);
    await waitForFrame(page, origin + until + 8000);
    const live = await readTap(page, origin, origin + until);
    const difference = live[0].map((sample, i) => sample - mixdown.channels[0][i]);
    const ratioDb = toDb(rms(difference, 0, length) / rms(live[0], 0, length));
    expect(rms(live[0], 0, length)).toBeGreaterThan(0.005);
    test.info().annotations.push({ type: 'difference of live sound and mixdown, dB', description: ratioDb.toFixed(1) });
    expect(ratioDb).toBeLessThan(-60);
    // The candidate is what is left when the project is taken away.
    const first = difference.findIndex((sample, i) => i > length && Math.abs(sample) > 1e-4);
    const bar = Math.round(first / barFrames(124)),
      offMs = ((first - bar * barFrames(124)) / rateHz) * 1000;
    test.info().annotations.push({ type: 'candidate begins off its bar line, ms', description: offMs.toFixed(3) });
    expect(bar).toBeGreaterThanOrEqual(8);
    expect(Math.abs(offMs)).toBeLessThan(1);
  },
);

async function idOf(page: Page, fileName: string): Promise<number> {
  const { rows } = (await (await page.request.get(`/api/v1/loops?q=${encodeURIComponent(fileName.replace(/\.\w+$/, ''))}`)).json()) as {
    rows: { id: number; fileName: string }[];
  };
  const found = rows.find((row) => row.fileName === fileName);
  if (!found) throw new Error(`no ${fileName}`);
  return found.id;
}

test('one candidate takes over from another on the bar without a gap: no 5 ms under −60 dBFS', { tag: '@alone' }, async ({ page }) => {
  await comeIn(page);
  const level = 0.35 + Math.random() * 0.1,
    tone = (hz: number) => wavOf(4, (t) => level * Math.sin(2 * Math.PI * hz * t));
  const ids = await importFiles(page.request, 'Test tones', [
    { path: 'Tone low 120 bpm.wav', bytes: tone(220) },
    { path: 'Tone high 120 bpm.wav', bytes: tone(330) },
  ]);
  for (const id of ids.values()) {
    await correct(page.request, id, 'kind', 'loop');
    await correct(page.request, id, 'tempo', '120');
    await correct(page.request, id, 'key', 'un');
  }
  await makeProject(page, 'Takeover', 126);
  const [low, high] = await Promise.all(['low', 'high'].map((name) => rowOf(page.request, ids.get(`Tone ${name} 120 bpm.wav`) ?? 0)));
  await startTap(page);
  await page.evaluate(() => window.garnetfinch.engine.play());
  const { originFrame } = await originOf(page);
  await audition(page, low);
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding');
  const startedAt = await page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100));
  await audition(page, high);
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding');
  const endAt = await page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100));
  await waitForFrame(page, endAt + 30_000);
  const [left] = await readTap(page, startedAt, endAt + 20_000),
    window5 = Math.round(0.005 * rateHz);
  let quietest = 0;
  for (let at = 0; at + window5 < left.length; at += 64) quietest = Math.min(quietest, toDb(rms(left, at, at + window5)));
  test.info().annotations.push({ type: 'quietest 5 ms over the takeover, dBFS', description: quietest.toFixed(1) });
  expect(quietest).toBeGreaterThan(-60);
  // The pitch changes on a bar line: before it 220 Hz · the loop's stretch leaves pitch alone · after it 330 Hz.
  const crossings = (from: number, to: number) => {
    let count = 0;
    for (let i = from + 1; i < to; i++) if (left[i - 1] < 0 && left[i] >= 0) count++;
    return (count * rateHz) / (to - from);
  };
  const swapFrame = await page.evaluate(() => window.garnetfinch.engine.audition.current?.originFrame ?? 0);
  const bars = (swapFrame - originFrame) / barFrames(126),
    seam = swapFrame - startedAt;
  expect(Math.abs(bars - Math.round(bars)) * barFrames(126)).toBeLessThanOrEqual(1);
  expect(Math.abs(crossings(seam - 8820, seam - 441) - 220)).toBeLessThan(8);
  expect(Math.abs(crossings(seam + 441, seam + 8820) - 330)).toBeLessThan(8);
});

test('after 64 bars a candidate is within 1 ms of its beat', { tag: '@alone' }, async ({ page }) => {
  test.slow();
  await comeIn(page);
  const beat = 60 / 150,
    level = 0.6 + Math.random() * 0.2,
    click = wavOf(4 * beat, (t) => {
      const since = t % beat;
      return since < 0.004 ? level * Math.exp(-since / 0.0008) * Math.cos(2 * Math.PI * 2000 * since) : 0;
    });
  const ids = await importFiles(page.request, 'Test clicks', [{ path: 'Click loop 150 bpm.wav', bytes: click }]);
  const [id] = ids.values();
  for (const [attribute, value] of [
    ['kind', 'loop'],
    ['tempo', '150'],
    ['key', 'un'],
    ['beats', '4'],
  ])
    await correct(page.request, id, attribute, value);
  const tempo = 299;
  await makeProject(page, 'Sixty-four bars', tempo);
  const row = await rowOf(page.request, id);
  await startTap(page);
  await page.evaluate(() => window.garnetfinch.engine.play());
  const { originFrame } = await originOf(page);
  await audition(page, row);
  await waitForFrame(page, originFrame + barFrames(tempo) * 67);
  for (const bar of [8, 64, 66]) {
    const ideal = originFrame + bar * barFrames(tempo),
      from = Math.round(ideal) - 2000;
    const [left] = await readTap(page, from, from + 4000);
    let peak = 0;
    for (const sample of left) peak = Math.max(peak, Math.abs(sample));
    expect(peak).toBeGreaterThan(0.01);
    const onset = left.findIndex((sample) => Math.abs(sample) > peak * 0.2);
    const offMs = ((from + onset - ideal) / rateHz) * 1000;
    test.info().annotations.push({ type: `click at bar ${bar}, off by ms`, description: offMs.toFixed(3) });
    expect(Math.abs(offMs)).toBeLessThan(1);
  }
});
