import { createHash } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { fitLoop, type FitOptions, type Fitted, type LoopSource } from '../../core/arrangement/fit-request';
import { loadTransforms } from '../../core/dsp/real-fft';
import { renderFitted } from '../../core/mix/render-fitted';
import type { StretchMode } from '../../core/stretch/stretch-modes';
import {
  comeIn,
  makeProject,
  openProject,
  originOf,
  rateHz,
  readTap,
  rms,
  signIn,
  startTap,
  test,
  visit,
  waitForFits,
  waitForFrame,
  wholeRows,
} from './support';

const candidate = (page: Page) => page.evaluate(() => window.garnetfinch.engine.store.getState().candidate);
const sounding = (page: Page) =>
  page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });

/** What a search finds, whole, as it is heard. */
async function rowsOf(page: Page, query: string): Promise<{ id: number; title: string; source: LoopSource }[]> {
  return (await wholeRows(page.request, query)) as { id: number; title: string; source: LoopSource }[];
}

/** Samples as 16-bit numbers, hashed. */
const hashOf = (planes: readonly Float32Array[]): string => {
  const hash = createHash('sha256');
  for (const plane of planes)
    hash.update(Buffer.from(Int16Array.from(plane, (value) => Math.round(Math.max(-1, Math.min(1, value)) * 32767)).buffer));
  return hash.digest('hex');
};

test('what the page fits is what the server fits, sample for sample, with every engine', async ({ page }) => {
  test.slow();
  await loadTransforms();
  await comeIn(page);
  await makeProject(page, 'Same bytes', 101, '9m');
  const audio = async (query: string) =>
    (await rowsOf(page, query)).filter(({ source }) => source.media === 'audio' && source.kind === 'loop')[0];
  const drums = await audio('family=drums'),
    keys = await audio('family=keys');
  await page.evaluate(() => window.garnetfinch.engine.open());
  const cases: [typeof drums, StretchMode, number][] = [
    [drums, 'percussive', 0],
    [drums, 'mixed', 0],
    [drums, 'apart', 0],
    [keys, 'tonal', 3],
    [keys, 'voice', -2],
    [keys, 'plain', 0],
  ];
  for (const [row, engine, shiftSemitones] of cases) {
    const options: FitOptions = {
        tempoBpm: 101,
        key: null,
        followTempo: true,
        followKey: false,
        overrides: { stretchMode: engine, shiftSemitones },
      },
      { request } = fitLoop(row.source, options),
      sound = new Uint8Array(await (await page.request.get(`/media/sound/${row.source.soundSha}`)).body()),
      wanted = renderFitted(request, sound);
    const base64 = await page.evaluate(async (wish) => {
      const buffer = await window.garnetfinch.engine.opened.pool.request(wish, 0),
        bytes = new Uint8Array(buffer.length * 8);
      for (const side of [0, 1]) bytes.set(new Uint8Array(buffer.getChannelData(side).slice().buffer), side * buffer.length * 4);
      let text = '';
      for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
      return btoa(text);
    }, request);
    const all = new Float32Array(Uint8Array.from(Buffer.from(base64, 'base64')).buffer),
      half = all.length / 2;
    expect(half, engine).toBe(request.targetFrames);
    expect(rms(wanted[0]), engine).toBeGreaterThan(0.001);
    expect(hashOf([all.subarray(0, half), all.subarray(half)]), engine).toBe(hashOf(wanted));
  }
});

test('the click lies on the beats, and a count-in comes before the music', { tag: '@alone' }, async ({ page }) => {
  await comeIn(page);
  await makeProject(page, 'Click', 120);
  await startTap(page);
  await page.getByRole('button', { name: 'click', exact: true }).click();
  await page.getByRole('button', { name: /^Count-in/ }).click();
  await page.evaluate(() => window.garnetfinch.engine.play());
  const { originFrame } = await originOf(page),
    beat = rateHz / 2;
  await waitForFrame(page, originFrame + beat * 5);
  for (const k of [-4, -2, 0, 1, 4]) {
    const ideal = Math.round(originFrame + k * beat),
      [left] = await readTap(page, ideal - 2000, ideal + 2000),
      peak = Math.max(...left.map(Math.abs)),
      onset = left.findIndex((value) => Math.abs(value) > peak * 0.05);
    expect(peak, `beat ${k}`).toBeGreaterThan(0.05);
    expect(Math.abs(onset - 2000), `beat ${k}`).toBeLessThan(20);
  }
  await page.evaluate(() => window.garnetfinch.engine.stop());
});

test(
  'a page that stood still, and a sound that was taken away: both go on where the music would be',
  { tag: '@alone' },
  async ({ page }) => {
    await comeIn(page);
    await openProject(page, 'Engine Room');
    await visit(page, '/?family=keys&kind=loop');
    await startTap(page);
    await page.evaluate(() => {
      const starts: { frame: number; offset: number; repeats: boolean }[] = [],
        start = AudioBufferSourceNode.prototype.start;
      Object.assign(window, { starts });
      // A range that soon comes round, and is longer than a cycle of four bars, so that there are cycles to begin.
      const engine = window.garnetfinch.engine as unknown as { setRange(range: object): void; seek(beat: number): void };
      engine.setRange({ startBeat: 16, endBeat: 48 });
      engine.seek(40);
      AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when?: number, offset?: number) {
        starts.push({ frame: Math.round((when ?? 0) * 44100), offset: Math.round((offset ?? 0) * 44100), repeats: this.loop });
        start.call(this, when, offset);
      };
    });
    await page.keyboard.press('Space');
    await waitForFits(page);
    await page.locator('[data-loop-list]').focus();
    await page.keyboard.press('ArrowDown');
    await sounding(page);
    // Longer than what is handed to the audio thread ahead of time.
    await page.evaluate(() => {
      (window as unknown as { starts: unknown[] }).starts.length = 0;
      const until = performance.now() + 2500;
      while (performance.now() < until);
    });
    // The range comes round again sooner or later, however busy the machine is.
    const begun = () =>
      page.evaluate(() => (window as unknown as { starts: { repeats: boolean }[] }).starts.filter((each) => each.repeats).length);
    await expect.poll(begun, { timeout: 30_000 }).toBeGreaterThan(0);
    // What was begun is heard for a second, by the audio clock.
    const second = async () =>
      waitForFrame(page, (await page.evaluate(() => window.garnetfinch.engine.context.currentTime * 44100)) + 1.2 * rateHz);
    await second();
    const { offFrames, checked } = await page.evaluate(() => {
      const { transport } = window.garnetfinch.engine as unknown as {
          transport: { originFrame: number; originBeat: number; tempoBpm: number };
        },
        { starts } = window as unknown as { starts: { frame: number; offset: number; repeats: boolean }[] },
        beat = (60 / transport.tempoBpm) * 44100,
        offs = starts
          .filter(({ repeats }) => repeats)
          .map(({ frame, offset }) => {
            const halves = ((frame - offset - transport.originFrame) / beat + transport.originBeat) * 2;
            return (Math.abs(halves - Math.round(halves)) * beat) / 2;
          });
      return { offFrames: Math.max(0, ...offs), checked: offs.length };
    });
    expect(checked).toBeGreaterThan(0);
    expect(offFrames).toBeLessThanOrEqual(1.01);
    const now = await page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100));
    expect(rms((await readTap(page, now - rateHz, now - rateHz / 10))[0])).toBeGreaterThan(0.003);

    const before = await page.evaluate(async () => {
      const { engine } = window.garnetfinch as unknown as { engine: { context: AudioContext; positionBeat(): number } };
      await engine.context.suspend();
      return engine.positionBeat();
    });
    await page.waitForFunction(() => window.garnetfinch.engine.context.state === 'running', null, { timeout: 10_000 });
    await second();
    await expect(page.getByText('The browser has paused the sound')).toHaveCount(0);
    const after = await page.evaluate(() => ({
      frame: Math.round(window.garnetfinch.engine.context.currentTime * 44100),
      beat: (window.garnetfinch.engine as unknown as { positionBeat(): number }).positionBeat(),
    }));
    expect(after.beat).not.toBeCloseTo(before, 1);
    expect(rms((await readTap(page, after.frame - rateHz, after.frame - rateHz / 10))[0])).toBeGreaterThan(0.003);
  },
);

test('a second browser as remote: the room does what is pressed there, and the remote shows it', async ({ page, context }) => {
  await comeIn(page);
  await makeProject(page, 'Remote', 120);
  // No two drum loops have one name, as a recording and its MIDI file have: they are told apart by name below.
  await visit(page, '/?q=piston&kind=loop&sort=title&dir=asc');
  const remote = await context.newPage();
  await remote.setViewportSize({ width: 390, height: 800 });
  await remote.goto('/remote');
  await expect(remote.getByText('Nothing is being heard')).toBeVisible();
  await remote.getByRole('button', { name: 'Next' }).click();
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate !== null, null, { timeout: 15_000 });
  const { title, packName } = ((await candidate(page)) as unknown as { row: { title: string; packName: string } }).row;
  await expect(remote.getByRole('status').getByText(title, { exact: true })).toBeVisible();
  await expect(remote.getByRole('status').getByText(new RegExp(`BPM · .*${packName}`))).toBeVisible();
  await remote.getByRole('button', { name: 'Keep' }).click();
  await expect(remote.getByRole('region', { name: 'Shortlist' }).getByRole('button', { name: title })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Shortlist' }).getByRole('listitem')).toHaveCount(1);
  expect(await remote.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // What a press meant is what was shown when it was pressed, even if the next one sounds when it arrives.
  const shown = remote.getByRole('status').first();
  await remote.getByRole('button', { name: 'Next' }).click();
  await expect(shown.getByText(title, { exact: true })).toHaveCount(0);
  const meant = ((await candidate(page)) as unknown as { row: { title: string } }).row.title;
  await expect(shown.getByText(meant)).toBeVisible();
  await remote.route('**/api/v1/remote', async (route) => {
    if (route.request().postData()?.includes('keep')) await new Promise((next) => setTimeout(next, 1500));
    await route.continue();
  });
  await remote.getByRole('button', { name: 'Keep' }).click();
  await remote.getByRole('button', { name: 'Next' }).click();
  await expect(shown.getByText(meant, { exact: true })).toHaveCount(0);
  const list = page.getByRole('group', { name: 'Shortlist' });
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await expect(list.getByText(meant, { exact: true })).toBeVisible();
  await remote.getByRole('button', { name: 'Silence' }).click();
  await expect(remote.getByText('Nothing is being heard')).toBeVisible();
});

test(
  'without a project a loop is heard at a tempo of one’s own, over a chord that drones, and both stay at hand',
  { tag: '@alone' },
  async ({ page }) => {
    await signIn(page);
    const free = page.getByRole('group', { name: 'Without a project' });
    await page.getByLabel('Project in the room').selectOption({ index: 0 });
    await expect(free).toBeVisible();
    await visit(page, '/?family=keys&kind=loop');
    await startTap(page);
    await free.getByLabel('Tempo').fill('100');
    await page.getByRole('button', { name: 'Play the project' }).click();
    await page.locator('[data-loop-list]').focus();
    await page.keyboard.press('ArrowDown');
    await sounding(page);
    const { fitted, row } = (await candidate(page)) as unknown as { fitted: Fitted; row: { source: LoopSource } };
    expect(fitted.speedPercent).toBeCloseTo((100 / ((row.source.tempoBpm ?? 0) * fitted.reading) - 1) * 100, 3);
    await free.getByLabel('Drone', { exact: true }).selectOption('A');
    await free.getByLabel('Drone as').selectOption('minor chord');
    // The loop is silenced and stopped; the chord goes on by itself.
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Stop the project' }).click();
    const now = () => page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100)),
      from = (await now()) + rateHz / 2;
    await waitForFrame(page, from + rateHz);
    const [left] = await readTap(page, from, from + rateHz);
    expect(rms(left)).toBeGreaterThan(0.005);
    await free.getByLabel('Drone', { exact: true }).selectOption('none');
    const after = (await now()) + rateHz;
    await waitForFrame(page, after + rateHz / 2);
    expect(rms((await readTap(page, after, after + rateHz / 2))[0])).toBeLessThan(1e-5);
  },
);

test(
  'tempo and key are checked by ear: clicks with the loop, a drone, and a keyboard played by a connected instrument',
  { tag: '@alone' },
  async ({ page }) => {
    // A simulated instrument: one input that the test presses keys on.
    await page.addInitScript(() => {
      const input = { onmidimessage: null as ((event: { data: number[] }) => void) | null };
      Object.assign(window, { testInstrument: input });
      Object.defineProperty(navigator, 'requestMIDIAccess', {
        value: async () => ({ inputs: new Map([['test', input]]), onstatechange: null }),
      });
    });
    await comeIn(page);
    const [row] = (await rowsOf(page, 'family=keys&kind=loop')).filter(({ source }) => source.media === 'audio' && source.key);
    await visit(page, `/loops/${row.id}`);
    await startTap(page);
    const ear = page.getByRole('region', { name: 'Check by ear' });
    await ear.getByRole('button', { name: /^\d/ }).first().click();
    await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding');
    const now = () => page.evaluate(() => Math.round(window.garnetfinch.engine.context.currentTime * 44100)),
      from = await now();
    await waitForFrame(page, from + 2 * rateHz);
    const [left, right] = await readTap(page, from, from + 2 * rateHz);
    expect(rms(left)).toBeGreaterThan(0.005);
    expect(rms(right)).toBeGreaterThan(0.005);
    const differs = rms(left.map((value, i) => value - right[i]));
    expect(differs).toBeGreaterThan(0.3 * rms(left));
    await ear.getByRole('button', { name: /^\d/ }).first().click();
    await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate === null);
    // The keyboard shows and sounds what the instrument plays.
    await page.evaluate(() =>
      (window as unknown as { testInstrument: { onmidimessage(event: { data: number[] }): void } }).testInstrument.onmidimessage({
        data: [0x90, 57, 100],
      }),
    );
    await expect(ear.getByRole('button', { name: 'A3', exact: true })).toHaveAttribute('data-down', 'true');
    const struck = await now();
    await waitForFrame(page, struck + rateHz / 2);
    const [tone] = await readTap(page, struck + 4410, struck + rateHz / 2);
    let crossings = 0;
    for (let i = 1; i < tone.length; i++) if (tone[i - 1] < 0 && tone[i] >= 0) crossings++;
    expect(Math.abs((crossings * rateHz) / tone.length - 220)).toBeLessThan(6);
  },
);
