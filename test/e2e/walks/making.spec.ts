import { expect, type Page } from '@playwright/test';
import { mixdownFrom } from '../mixdown';
import { goToBar, levelsOf, pieceOf, saved, takeClip, tracksOf } from '../piece';
import { addStep, benchReady, loopCalled, saveAs } from '../bench';
import { comeIn, makeProject, rateHz, rms, test, toDb, visit, wavOf, wholeRows } from '../support';

/** Holds back the list of the group's own packs until it is let go, each time it is asked for. */
async function holdPacks(page: Page): Promise<{ letGo(): void }> {
  let waiting: (() => void)[] = [];
  await page.route(
    (url) => url.pathname.endsWith('/makings') && url.search === '',
    async (route) => {
      if (route.request().method() === 'GET') await new Promise<void>((next) => waiting.push(next));
      await route.continue();
    },
  );
  return {
    letGo: () => {
      for (const next of waiting) next();
      waiting = [];
    },
  };
}

/** Places a loop at bar 1 of the project in the room, on a track of its own. */
async function placeAtBar1(page: Page, loopId: number): Promise<void> {
  const [row] = await wholeRows(page.request, `id=${loopId}`);
  await visit(page, `/loops/${loopId}`);
  await page.locator('#page').getByRole('button', { name: 'Place …' }).click();
  const dialog = page.getByRole('dialog', { name: /^Place/ });
  await dialog.getByLabel(/bar$/).first().fill('1');
  await dialog.getByRole('button', { name: 'Place', exact: true }).click();
  await expect(dialog).toBeHidden();
  expect(row.id).toBe(loopId);
}

test('a dropped beat of unknown tempo, two bars with a pause before it: cut, named, found, placed, and it follows the tempo', async ({
  page,
}) => {
  test.slow();
  await comeIn(page);
  const stamp = Date.now().toString(36),
    projectId = await makeProject(page, `Walk making ${stamp}`, 112);
  // Eight beats at 97, behind 0.61 seconds of nothing, and half a second of nothing behind.
  const beat = 60 / 97,
    sound = wavOf(0.61 + 8 * beat + 0.5, (t) => {
      const at = t - 0.61,
        k = Math.floor(at / beat);
      if (at < 0 || k > 7) return 0;
      const into = at - k * beat;
      return 0.6 * Math.exp(-into * 25) * Math.sin(2 * Math.PI * (k % 4 === 0 ? 90 : 300) * into);
    });
  await visit(page, '/workbench');
  await page
    .getByLabel('A sound for the workbench')
    .setInputFiles({ name: `Knocks ${stamp}.wav`, mimeType: 'audio/wav', buffer: Buffer.from(sound) });
  await page.waitForURL(/\/workbench\/\d+/, { timeout: 60_000 });
  await benchReady(page);
  await addStep(page, /^Part/);
  // The handles by keys, to where the sound says; then how many bars it is: the tempo follows.
  await page.getByLabel('Handles snap to').selectOption('off');
  const part = page.getByRole('region', { name: 'Part' }),
    put = async (label: string, seconds: number) => {
      const handle = page.getByRole('slider', { name: label });
      await handle.focus();
      for (let tries = 0; tries < 400; tries++) {
        const now = Number(await handle.getAttribute('aria-valuenow')) / rateHz,
          off = seconds - now;
        if (Math.abs(off) < 0.0006) return;
        await page.keyboard.press(`${Math.abs(off) > 0.01 ? 'Shift+' : ''}Arrow${off > 0 ? 'Right' : 'Left'}`);
      }
      throw new Error(`${label} did not come to ${seconds}`);
    };
  await put('Where it starts', 0.61);
  await put('Where it ends', 0.61 + 8 * beat);
  await part.getByLabel('Fits bars').fill('2');
  await part.getByLabel('Fits bars').press('Enter');
  await benchReady(page);
  await expect(part.getByLabel('at tempo')).toHaveValue(/^9[67]\.\d+$|^97$/);
  const loopId = await saveAs(page, `Ferry knocks ${stamp}`, `Ours ${stamp}`);
  // Found by its name in the library.
  await visit(page, `/?q=${encodeURIComponent(`Ferry knocks ${stamp}`)}`);
  await expect(page.locator('[data-loop-list]').getByRole('link', { name: `Ferry knocks ${stamp}` })).toBeVisible();
  const [row] = (await wholeRows(page.request, `id=${loopId}`)) as unknown as { source: { tempoBpm: number; beats: number } }[];
  expect(row.source.beats).toBe(8);
  expect(Math.abs(row.source.tempoBpm - 97)).toBeLessThan(0.05);
  await placeAtBar1(page, loopId);
  await visit(page, `/projects/${projectId}`);
  for (const tempo of [112, 90]) {
    await page.evaluate((tempoBpm) => window.garnetfinch.projectStore.edit({ kind: 'set-project', changes: { tempoBpm } }), tempo);
    await saved(page);
    const [left] = await mixdownFrom(page, 0, 8, tempo),
      // The first half of each beat sounds, the second has died away.
      halves = levelsOf(left, 16);
    for (let k = 0; k < 8; k++) expect(halves[2 * k] - halves[2 * k + 1]).toBeGreaterThan(12);
  }
  // Or the other way round: the project fits it.
  await visit(page, `/loops/${loopId}`);
  await page.getByRole('button', { name: 'Start a project from it' }).click();
  await page.waitForURL(/\/projects\/\d+/);
  await expect
    .poll(() => page.evaluate(() => (window.garnetfinch.projectStore.store.getState().project as { tempoBpm: number }).tempoBpm))
    .toBeCloseTo(97, 1);
});

test('a notes loop and a drum loop are given back: the one with its key, the other without', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const stamp = Date.now().toString(36),
    { rows: notes } = (await (await page.request.get('/api/v1/loops?q=is:notes+bass&kind=loop&limit=1&sort=title&in=none')).json()) as {
      rows: { title: string }[];
    };
  await pieceOf(page, `Walk keys ${stamp}`, [
    [notes[0].title, 4],
    ['Piston A1', 4],
  ]);
  await page.evaluate(() => window.garnetfinch.projectStore.edit({ kind: 'set-project', changes: { key: { tonic: 2, mode: 'minor' } } }));
  await saved(page);
  const packs = await holdPacks(page);
  const giveBack = async (track: number, name: string, asNotes: boolean, hasPacks: boolean): Promise<number> => {
    await takeClip(page, track, 1);
    const asked = page.waitForRequest((request) => request.url().endsWith('/makings') && request.method() === 'GET');
    await page.keyboard.press('g');
    await asked;
    const dialog = page.getByRole('dialog', { name: 'Give back to the library' });
    await dialog.getByLabel('Name', { exact: true }).fill(name);
    if (asNotes) await dialog.getByRole('combobox', { name: 'As', exact: true }).selectOption('notes');
    await dialog.getByLabel('Into the pack').selectOption('');
    await dialog.getByLabel('Its name').fill(`Keys ${name}`);
    // The packs there are come late, and leave what was said as it is.
    packs.letGo();
    if (hasPacks) await expect(dialog.getByLabel('Into the pack').getByRole('option')).not.toHaveCount(1);
    await expect(dialog.getByLabel('Its name')).toHaveValue(`Keys ${name}`);
    await dialog.getByRole('button', { name: 'Give it back' }).click();
    await expect(page.getByText(`“${name}” is in the library.`)).toBeVisible({ timeout: 60_000 });
    return loopCalled(page, name);
  };
  const bass = await giveBack(0, `Ferry bass ${stamp}`, true, false),
    drums = await giveBack(1, `Ferry drums ${stamp}`, false, true),
    [first, second] = (await wholeRows(page.request, `id=${bass}&id=${drums}`)) as unknown as {
      id: number;
      source: { media: string; key: { tonic: number; mode: string } | null; pitched: boolean | null; tempoBpm: number; beats: number };
    }[],
    byId = new Map([first, second].map((row) => [row.id, row.source]));
  expect(byId.get(bass)).toMatchObject({ media: 'midi', key: { tonic: 2, mode: 'minor' }, tempoBpm: 124, beats: 16 });
  expect(byId.get(drums)).toMatchObject({ media: 'audio', key: null, tempoBpm: 124, beats: 16 });
});

test('a sketch of tracks is given back with a variation, and rebuilt as an arrangement in a new project', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const stamp = Date.now().toString(36),
    name = `Walk sketch ${stamp}`;
  await pieceOf(
    page,
    name,
    [
      ['Piston A1', 8],
      ['Shaker 62 A', 8],
      ['Bass Fingered 05', 8],
      ['Piano Chords 01', 8],
    ],
    { sectionBars: [8] },
  );
  const [before] = await mixdownFrom(page, 0, 16, 124);
  await page.getByRole('button', { name: /^Opening, section/ }).click();
  await page.getByRole('menuitem', { name: 'Give it back to the library …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Give back to the library' });
  await dialog.getByLabel('All without one track').selectOption({ index: 1 });
  await dialog.getByLabel('Into the pack').selectOption('');
  await dialog.getByLabel('Its name').fill(`Season ${stamp}`);
  await dialog.getByLabel('Licence').fill('ours');
  await dialog.getByRole('button', { name: 'Give 2 back' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(/is in the library/)).toHaveCount(2, { timeout: 90_000 });
  const whole = await loopCalled(page, `${name} Opening`),
    [row] = (await wholeRows(page.request, `id=${whole}`)) as unknown as {
      setId: number | null;
      source: { tempoBpm: number; beats: number };
    }[];
  expect(row.source).toMatchObject({ tempoBpm: 124, beats: 32 });
  const ofSet = (await (await page.request.get(`/api/v1/loops?set=${row.setId}&in=none`)).json()) as { rows: unknown[] };
  expect(ofSet.rows).toHaveLength(2);
  // In a new project of the same tempo its tracks are as they were; so is what is heard.
  await makeProject(page, `Rebuilt ${stamp}`, 124);
  await visit(page, `/loops/${whole}`);
  await expect(page.getByText('What it was made of')).toBeVisible();
  await goToBar(page, 1);
  await page.getByRole('button', { name: /^Bring its 4 tracks into/ }).click();
  await saved(page);
  await expect.poll(async () => (await tracksOf(page)).map(({ clips }) => clips.length)).toEqual([1, 1, 1, 1]);
  const [after] = await mixdownFrom(page, 0, 16, 124),
    off = after.map((value, i) => value - before[i]);
  expect(toDb(rms(off) / rms(before))).toBeLessThan(-60);
});

test('a sung line is drawn onto the grid and to C minor, made darker and layered; what comes of it is in time and in tune', async ({
  page,
}) => {
  test.slow();
  await comeIn(page);
  const stamp = Date.now().toString(36),
    // C, E flat, F, G: each off by a third of a semitone, late or early, one half second long, as a voice of many partials.
    notes = [60.33, 62.7, 65.35, 66.68],
    starts = [0, 0.575, 1.085, 1.67],
    sound = wavOf(2.2, (t) => {
      const k = starts.findLastIndex((start) => t >= start),
        into = t - starts[k],
        hz = 440 * 2 ** ((notes[k] - 69) / 12);
      if (into > 0.5) return 0;
      let sum = 0;
      for (let h = 1; h * hz < 5000; h++) sum += Math.sin(2 * Math.PI * h * hz * into) / (1 + ((h * hz - 900) / 500) ** 2);
      return 0.12 * sum * Math.min(1, into * 80, (0.5 - into) * 60);
    });
  await visit(page, '/workbench');
  await page
    .getByLabel('A sound for the workbench')
    .setInputFiles({ name: `Sung ${stamp}.wav`, mimeType: 'audio/wav', buffer: Buffer.from(sound) });
  await page.waitForURL(/\/workbench\/\d+/, { timeout: 60_000 });
  await benchReady(page);
  // One bar of four beats, each of its notes onto one.
  await addStep(page, /^Part/);
  await page.getByRole('region', { name: 'Part' }).getByLabel('Fits bars').fill('1');
  await page.keyboard.press('Enter');
  await benchReady(page);
  await addStep(page, /^Onto the grid/);
  await page.getByRole('combobox', { name: 'Grid' }).selectOption('1');
  await benchReady(page);
  await addStep(page, /^Notes of a line/);
  await page.getByRole('combobox', { name: 'Notes of' }).selectOption('0m');
  await benchReady(page);
  await expect(page.getByText(/notes, C4 to G4/)).toBeVisible();
  await page.getByRole('slider', { name: 'Formants' }).focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('region', { name: 'Notes of a line' })).toContainText('−3');
  await benchReady(page);
  await addStep(page, /^Layers/);
  await page.getByRole('button', { name: '−24, 0, +24' }).click();
  await benchReady(page);
  // Heard at once.
  await page.getByRole('button', { name: 'Hear it' }).click();
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
  await page.evaluate(() => (window.garnetfinch.engine as unknown as { audition: { stop(): void } }).audition.stop());
  const loopId = await saveAs(page, `Sung in C ${stamp}`, `Ours, sung ${stamp}`);
  // What was saved: where each note is loudest near its own pitch.
  const wav = new Uint8Array(await (await page.request.get(`/media/file/${loopId}`)).body()),
    { parseWav } = await import('../../../core/formats/wav/parse'),
    [plane] = parseWav(wav).channels,
    loudestNear = (from: number, note: number) => {
      let best = 0,
        most = 0;
      for (let cents = -60; cents <= 60; cents += 2) {
        const hz = 440 * 2 ** ((note + cents / 100 - 69) / 12);
        let [re, im] = [0, 0];
        for (let i = Math.round(from * rateHz); i < Math.round((from + 0.36) * rateHz); i++) {
          re += plane[i] * Math.cos((2 * Math.PI * hz * i) / rateHz);
          im += plane[i] * Math.sin((2 * Math.PI * hz * i) / rateHz);
        }
        const power = re * re + im * im;
        if (power > most) [best, most] = [cents, power];
      }
      return best;
    };
  // Each note begins on its beat: where five milliseconds are first nearly half as loud as it becomes.
  for (const k of [1, 2, 3]) {
    const line = Math.round(k * 0.55 * rateHz),
      loud = (ms: number) => rms(plane, line + Math.round((ms * rateHz) / 1000), line + Math.round(((ms + 5) * rateHz) / 1000)),
      all = Array.from({ length: 80 }, (_, n) => n - 30),
      top = Math.max(...all.map(loud)),
      begins = all.find((ms) => loud(ms) > top * 0.4) ?? NaN;
    expect(Math.abs(begins)).toBeLessThan(12);
  }
  for (const [k, note] of [60, 63, 65, 67].entries()) expect(Math.abs(loudestNear(k * 0.55 + 0.08, note))).toBeLessThanOrEqual(8);
});
