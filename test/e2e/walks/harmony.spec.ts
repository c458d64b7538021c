import { expect, type Page } from '@playwright/test';
import { scheduleProject } from '../../../core/arrangement/schedule';
import { newClip, newTrack, type Project } from '../../../core/arrangement/tree';
import { renderMix } from '../../../core/mix/render';
import { renderFitted } from '../../../core/mix/render-fitted';
import { noteToHz } from '../../../core/units/pitch';
import { editBy, playFrom, takeClip, tracksOf, saved } from '../piece';
import { accounts, correct, importFiles, makeProject, rateHz, signIn, startTap, test, toDb, visit, waitForFits, wavOf } from '../support';

const tempoBpm = 120,
  beat = 60 / tempoBpm,
  bar = 4 * beat;

/** Tones struck on every beat, two bars long: what each of them plays, as a WAV. */
const struck = (notes: readonly number[], level = 0.25): Uint8Array =>
  wavOf(2 * bar, (t) => {
    const into = t % beat;
    return notes.reduce(
      (sum, note) =>
        sum +
        level *
          Math.min(1, into / 0.004) *
          Math.exp(-into * 2) *
          Math.min(1, (beat - into) / 0.01) *
          (Math.sin(2 * Math.PI * noteToHz(note) * into) + 0.3 * Math.sin(4 * Math.PI * noteToHz(note) * into)),
      0,
    );
  });
const knocks = wavOf(2 * bar, (t) => {
  const into = t % (beat / 2);
  return 0.5 * Math.exp(-into * 60) * Math.sin(2 * Math.PI * 180 * into + 40 * Math.exp(-into * 90));
});

/** How much of a note is in a stretch of sound, as an amplitude. */
function amountOf(samples: Float32Array, note: number): number {
  let re = 0,
    im = 0;
  const turn = (2 * Math.PI * noteToHz(note)) / rateHz;
  for (let i = 0; i < samples.length; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / samples.length);
    re += samples[i] * window * Math.cos(turn * i);
    im += samples[i] * window * Math.sin(turn * i);
  }
  return Math.hypot(re, im) / samples.length;
}
/** The strongest of some notes. */
const strongest = (samples: Float32Array, from: number, to: number): number =>
  Array.from({ length: to - from + 1 }, (_, k) => from + k).reduce((best, note) =>
    amountOf(samples, note) > amountOf(samples, best) ? note : best,
  );
/** The first beat of each bar: over several, tones that are struck anew would cancel each other. */
const barsOf = (samples: Float32Array, count: number): Float32Array[] =>
  Array.from({ length: count }, (_, k) => samples.slice(Math.round(k * bar * rateHz) + 1500, Math.round((k * bar + beat) * rateHz) - 1500));

interface Part {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly chords?: string;
  readonly key?: string;
  readonly pan?: number;
}

/** A project of loops that were brought in for it, one a track, for some bars; what each plays is stated where it has chords. */
async function pieceFrom(page: Page, name: string, parts: readonly Part[], bars: number, key = 'none'): Promise<void> {
  const stamp = Date.now().toString(36),
    ids = await importFiles(
      page.request,
      `Walk ${name} ${stamp}`,
      parts.map((part) => ({ path: `${part.name}_${tempoBpm}bpm.wav`, bytes: part.bytes })),
    ),
    projectId = await makeProject(page, `Walk ${name} ${stamp}`, tempoBpm, key);
  for (const part of parts)
    if (part.chords)
      expect(
        (
          await page.request.put(`/api/v1/loops/${ids.get(`${part.name}_${tempoBpm}bpm.wav`)}/chords`, { form: { chords: part.chords } })
        ).ok(),
      ).toBe(true);
  for (const part of parts)
    if (part.key) await correct(page.request, ids.get(`${part.name}_${tempoBpm}bpm.wav`) as number, 'key', part.key);
  await visit(page, `/projects/${projectId}`);
  await editBy(
    page,
    parts.map((part, index) => ({
      kind: 'add-track',
      index,
      track: newTrack({
        id: `track-${index}`,
        name: part.name.split('_')[0],
        colour: index,
        pan: part.pan ?? 0,
        clips: [
          newClip({
            id: `clip-${index}`,
            loopId: ids.get(`${part.name}_${tempoBpm}bpm.wav`) as number,
            startBeat: 0,
            lengthBeats: bars * 4,
          }),
        ],
      }),
    })),
  );
  await page.reload();
  await page.waitForSelector('[data-clip]');
  await waitForFits(page);
  await startTap(page);
}

/** What some tracks play from bar 1, left and right. */
async function heardOf(page: Page, tracks: readonly number[], bars: number): Promise<[Float32Array, Float32Array]> {
  const ids = (await tracksOf(page)).map(({ id }) => id),
    solo = (soloed: boolean) =>
      editBy(
        page,
        tracks.map((track) => ({ kind: 'set-track', trackId: ids[track], changes: { soloed } })),
      );
  await solo(true);
  const heard = await playFrom(page, 0, bars * 4, tempoBpm);
  await solo(false);
  return heard;
}

/** What one track alone plays from bar 1. */
const aloneFrom = async (page: Page, track: number, bars: number): Promise<Float32Array> => (await heardOf(page, [track], bars))[0];

/** Writes a line of chords in the panel of the harmony. */
async function writeChords(page: Page, line: string): Promise<void> {
  const button = page.getByRole('button', { name: /^Harmony/ });
  if ((await button.getAttribute('aria-pressed')) === 'false') await button.click();
  const panel = page.getByRole('region', { name: 'Harmony' });
  await panel.getByLabel(/^Chords, one a bar/).fill(line);
  await panel.getByRole('button', { name: 'Set', exact: true }).click();
  await saved(page);
}

const maximumDifference = (a: Float32Array, b: Float32Array): number =>
  a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);

test('guitar, bass and piano on one chord, laid under a progression of ten bars; the drums stay as they are', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  await pieceFrom(
    page,
    'ten chords',
    [
      { name: 'Bass_electric_A', bytes: struck([45], 0.4), chords: 'A', pan: -1 },
      { name: 'Guitar_acoustic_A', bytes: struck([57, 61, 64]), chords: 'A', pan: -1 },
      { name: 'Piano_A', bytes: struck([69, 73, 76]), chords: 'A', pan: 1 },
      { name: 'Drums_kick_snare', bytes: knocks, pan: 1 },
    ],
    10,
  );
  const [, drumsBefore] = await heardOf(page, [0, 3], 4);
  await writeChords(page, 'A D E F♯m D E7 A Bm E A');
  for (const track of [0, 1, 2]) {
    await takeClip(page, track, 1);
    await page.getByLabel('How it goes with the chords').selectOption('roots');
    await saved(page);
  }
  const roots = [9, 2, 4, 6, 2, 4, 9, 11, 4, 9],
    // Two at once: one on the left, one on the right.
    [bass, drums] = await heardOf(page, [0, 3], 10),
    [guitar, piano] = await heardOf(page, [1, 2], 10);
  expect(barsOf(bass, 10).map((samples) => strongest(samples, 36, 52) % 12)).toEqual(roots);
  for (const [sound, lowest] of [
    [guitar, 50],
    [piano, 62],
  ] as const)
    for (const [k, samples] of barsOf(sound, 10).entries()) {
      // Of a triad that was moved as a whole all three notes are there, and no fourth.
      const classes = Array.from({ length: 12 }, (_, pitch) =>
          Math.max(...[0, 12, 24].map((octave) => amountOf(samples, lowest + ((pitch - lowest + 120) % 12) + octave))),
        ),
        loudest = [...classes.keys()].sort((x, y) => classes[y] - classes[x]).slice(0, 3);
      expect(new Set(loudest.map((pitch) => (pitch - roots[k] + 12) % 12))).toEqual(new Set([0, 4, 7]));
    }
  // Where other chords hold too.
  expect(maximumDifference(drums.slice(0, drumsBefore.length), drumsBefore)).toBeLessThan(1e-3);
});

test('a bass goes −8 and then −4, and the piano with it', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  await pieceFrom(
    page,
    'eight down',
    [
      { name: 'Bass_synth_Bbm', bytes: struck([46], 0.4), chords: 'B♭m' },
      { name: 'Piano_Bbm', bytes: struck([70, 73, 77]), chords: 'B♭m' },
    ],
    4,
    '2m',
  );
  await writeChords(page, 'Dm . F♯m .');
  for (const track of [0, 1]) {
    await takeClip(page, track, 1);
    await page.getByLabel('How it goes with the chords').selectOption('roots');
    await saved(page);
    // The nearest way is up; an octave lower is the other way.
    await page.keyboard.press('Escape');
    await takeClip(page, track, 1);
    for (let k = 0; k < 12; k++) await page.keyboard.press('Alt+ArrowDown');
    await saved(page);
  }
  const bass = barsOf(await aloneFrom(page, 0, 4), 4).map((samples) => strongest(samples, 34, 58)),
    piano = barsOf(await aloneFrom(page, 1, 4), 4).map((samples) => strongest(samples, 56, 74));
  expect(bass).toEqual([38, 38, 42, 42]);
  for (const [k, root] of [62, 62, 66, 66].entries()) expect([0, 3, 7]).toContain(piano[k] - root);
});

test('from C to D: piano and bass two up, the drums as they are; and the other way round', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  await pieceFrom(
    page,
    'two up',
    [
      { name: 'Bass_electric_Cmaj', bytes: struck([48], 0.4), key: '0M' },
      { name: 'Piano_Cmaj', bytes: struck([60, 64, 67]), key: '0M' },
      { name: 'Drums_kick_snare', bytes: knocks },
    ],
    2,
    '0M',
  );
  const drumsBefore = await aloneFrom(page, 2, 2);
  await page.getByLabel('Key', { exact: true }).selectOption('2M');
  await saved(page);
  const [bass] = barsOf(await aloneFrom(page, 0, 2), 1),
    [piano] = barsOf(await aloneFrom(page, 1, 2), 1);
  expect(strongest(bass, 40, 60)).toBe(50);
  expect([62, 66, 69]).toContain(strongest(piano, 57, 72));
  expect(maximumDifference(await aloneFrom(page, 2, 2), drumsBefore)).toBeLessThan(1e-4);
  await takeClip(page, 0, 1);
  await page.keyboard.press('o');
  await saved(page);
  expect(strongest(barsOf(await aloneFrom(page, 0, 2), 1)[0], 30, 60)).toBe(38);
});

test('who does not know the key lets it be found, hears it over a drone and takes it', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  await pieceFrom(
    page,
    'no key',
    [
      { name: 'Bass_one', bytes: struck([43], 0.4), chords: 'G' },
      { name: 'Piano_one', bytes: struck([67, 71, 74, 78]), chords: 'Gmaj7' },
      { name: 'Guitar_one', bytes: struck([60, 64, 67, 69]), chords: 'Am7' },
    ],
    2,
  );
  await page.getByRole('button', { name: /^Harmony/ }).click();
  const panel = page.getByRole('region', { name: 'Harmony' });
  await panel.getByRole('button', { name: 'Find the key of what is placed' }).click();
  const [first] = await panel.getByRole('list', { name: 'Keys found' }).getByRole('listitem').all();
  await expect(first).toContainText('G major');
  await first.getByRole('button', { name: 'drone' }).click();
  await expect(first.getByRole('button', { name: 'drone' })).toHaveAttribute('aria-pressed', 'true');
  await first.getByRole('button', { name: 'drone' }).click();
  await first.getByRole('button', { name: 'Take it' }).click();
  await saved(page);
  await expect(page.getByLabel('Key', { exact: true })).toHaveValue('7M');
});

test('what rubs is told in words, gone to, and mended by one act; a chord is made longer by the pointer', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  await pieceFrom(
    page,
    'rubbing',
    [
      { name: 'Bass_electric_low', bytes: struck([41], 0.4), chords: 'F', key: '5M' },
      { name: 'Piano_sharp', bytes: struck([66, 70, 73]), chords: 'F♯', key: '6M' },
    ],
    4,
  );
  // Neither follows a key, as there is none; the chords are F and B♭.
  await writeChords(page, 'F . B♭ .');
  const panel = page.getByRole('region', { name: 'Harmony' }),
    rubbing = panel.getByRole('listitem').filter({ hasText: 'against' });
  await expect(rubbing.first()).toContainText(/F♯ of Piano against F of|F of Bass against F♯ of Piano/);
  await rubbing.first().getByRole('button', { name: 'Go there' }).click();
  await expect(page.locator('[data-clip][aria-pressed=true]').first()).toBeVisible();
  for (let acts = 0; acts < 4 && (await rubbing.count()) > 0; acts++) {
    await rubbing.first().getByRole('button', { name: 'Mend it' }).click();
    await saved(page);
    const before = await rubbing.count();
    await expect.poll(async () => (await rubbing.count()) < before || before === 0).toBe(true);
  }
  await expect(panel.getByText('What rubs · nothing')).toBeVisible();
  // The piano plays F A C and then B♭ D F now.
  const piano = barsOf(await aloneFrom(page, 1, 4), 4).map((samples) => {
    const classes = Array.from({ length: 12 }, (_, pitch) => Math.max(...[48, 60, 72].map((octave) => amountOf(samples, octave + pitch))));
    return new Set([...classes.keys()].sort((x, y) => classes[y] - classes[x]).slice(0, 3));
  });
  expect(piano[0]).toEqual(new Set([5, 9, 0]));
  expect(piano[2]).toEqual(new Set([10, 2, 5]));
  // The end of the first chord, drawn a bar further.
  await page.getByRole('button', { name: 'Close harmony' }).click();
  const chord = page.locator('[data-chord]').first(),
    box = await chord.boundingBox();
  if (!box) throw new Error('no chord');
  await page.mouse.move(box.x + box.width - 3, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width + box.width / 4, box.y + 8);
  await page.mouse.move(box.x + box.width + box.width / 2 - 3, box.y + 8);
  await page.mouse.up();
  await saved(page);
  expect(
    await page.evaluate(() =>
      (window.garnetfinch.projectStore.store.getState().project as { chords: { startBeat: number }[] }).chords.map(
        ({ startBeat }) => startBeat,
      ),
    ),
  ).toEqual([0, 12]);
});

/** The part that what was heard of a piece of patterns, from its start, and what is mixed down of it differ by. */
async function apartFromMixdown(page: Page, heard: Float32Array): Promise<number> {
  const project = (await page.evaluate(() => window.garnetfinch.projectStore.store.getState().project)) as Project,
    schedule = scheduleProject(project, new Map()),
    buffers = new Map([...schedule.requests].map(([key, request]) => [key, renderFitted(request, new Uint8Array())])),
    [left] = renderMix(project, schedule, buffers).channels,
    length = Math.min(left.length, heard.length);
  let apart = 0,
    whole = 0;
  for (let i = 0; i < length; i++) {
    apart += (left[i] - heard[i]) ** 2;
    whole += left[i] ** 2;
  }
  return Math.sqrt(apart / whole);
}

/** The notes of the pattern that is open. */
const notesOf = (page: Page): Promise<{ startBeat: number; pitch: number }[]> =>
  page.evaluate(() =>
    (
      window.garnetfinch.projectStore.store.getState().project as { patterns: { notes: { startBeat: number; pitch: number }[] }[] }
    ).patterns.flatMap(({ notes }) => notes),
  );

test('a cowbell instead of a cymbal at bar 2 of a pattern of two bars is heard in every repetition; by keys alone', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  const projectId = await makeProject(page, `Walk cowbell ${Date.now().toString(36)}`, tempoBpm);
  await visit(page, `/projects/${projectId}`);
  await page.getByRole('button', { name: 'An empty track' }).click();
  await page.getByRole('button', { name: 'New drums', exact: true }).click();
  const editor = page.getByRole('region', { name: /^Notes of/ });
  await editor.getByLabel('Bars').fill('2');
  await editor.getByLabel('Bars').press('Enter');
  await saved(page);
  const roll = page.locator('[data-roll]');
  await roll.focus();
  // The cursor stands on the snare at beat 1; a crash at bar 2, and a kick on each bar.
  await editor.getByLabel('Grid of notes').selectOption('1');
  await roll.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowRight');
  for (let k = 0; k < 11; k++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  expect(await notesOf(page)).toMatchObject([{ startBeat: 4, pitch: 49 }]);
  // Four times round.
  const [clip] = (await tracksOf(page))[1].clips,
    trackId = (await tracksOf(page))[1].id;
  await editBy(page, [{ kind: 'set-clip', clipId: clip.id, trackId, changes: { lengthBeats: 32 } }]);
  await startTap(page);
  const [before] = await playFrom(page, 0, 32, tempoBpm);
  await roll.focus();
  await page.keyboard.press('Tab');
  for (let k = 0; k < 7; k++) await page.keyboard.press('ArrowUp');
  expect(await notesOf(page)).toMatchObject([{ startBeat: 4, pitch: 56 }]);
  await saved(page);
  const [after] = await playFrom(page, 0, 32, tempoBpm),
    second = (samples: Float32Array, time: number) =>
      samples.slice(Math.round((2 * time + 1) * bar * rateHz), Math.round((2 * time + 2) * bar * rateHz));
  for (let time = 0; time < 4; time++) {
    expect(maximumDifference(second(after, time), second(after, 0))).toBeLessThan(1e-4);
    expect(maximumDifference(second(after, time), second(before, time))).toBeGreaterThan(0.05);
  }
});

test('notes of the library become a pattern, are played by another instrument, and follow the chords', async ({ page }) => {
  test.slow();
  await signIn(page, accounts[1]);
  const { rows } = (await (await page.request.get('/api/v1/loops?q=Electric%20Piano&limit=50&in=none')).json()) as {
      rows: { id: number; title: string; source: { media: string } }[];
    },
    row = rows.find(({ title, source }) => title === 'Electric Piano 01' && source.media === 'midi');
  if (!row) throw new Error('no notes in the library');
  const projectId = await makeProject(page, `Walk instrument ${Date.now().toString(36)}`, tempoBpm);
  await visit(page, `/projects/${projectId}`);
  await editBy(page, [
    {
      kind: 'add-track',
      index: 0,
      track: newTrack({ id: 'keys', name: 'Keys', clips: [newClip({ id: 'clip', loopId: row.id, startBeat: 0, lengthBeats: 16 })] }),
    },
  ]);
  await page.reload();
  await page.waitForSelector('[data-clip]');
  await startTap(page);
  const [asLoop] = await playFrom(page, 0, 8, tempoBpm);
  await takeClip(page, 0, 1);
  await page.keyboard.press('p');
  const editor = page.getByRole('region', { name: /^Notes of/ });
  await expect(editor).toBeVisible();
  expect((await notesOf(page)).length).toBeGreaterThan(4);
  await saved(page);
  const [asPattern] = await playFrom(page, 0, 8, tempoBpm),
    level = (samples: Float32Array) => 10 * Math.log10(samples.reduce((sum, value) => sum + value * value, 0) / samples.length + 1e-12);
  // The same notes by the same instrument are as loud.
  expect(Math.abs(level(asPattern) - level(asLoop))).toBeLessThan(1.5);
  await editor.getByLabel('Instrument').selectOption('organ');
  await saved(page);
  const [asOrgan] = await playFrom(page, 0, 8, tempoBpm);
  expect(maximumDifference(asOrgan, asPattern)).toBeGreaterThan(0.02);
  expect(level(asOrgan)).toBeGreaterThan(-50);
  // What is mixed down is what is heard: the same plan, rendered here.
  expect(toDb(await apartFromMixdown(page, asOrgan))).toBeLessThan(-90);
  await editor.getByLabel('How it goes with the chords').selectOption('roots');
  await saved(page);
  await writeChords(page, 'C . F .');
  const [overChords] = await playFrom(page, 0, 16, tempoBpm);
  expect(toDb(await apartFromMixdown(page, overChords))).toBeLessThan(-90);
  // Each bar holds notes of its chord and hardly anything between them.
  for (const [k, classes] of [
    [0, [0, 4, 7]],
    [2, [5, 9, 0]],
  ] as const) {
    const samples = overChords.slice(Math.round(k * bar * rateHz) + 4000, Math.round((k + 1) * bar * rateHz)),
      of = (pitch: number) => [48, 60, 72].reduce((sum, octave) => sum + amountOf(samples, octave + pitch), 0),
      inChord = classes.reduce<number>((sum, pitch) => sum + of(pitch), 0) / classes.length,
      beside = [1, 6, 11].reduce((sum, away) => sum + of((classes[0] + away) % 12), 0) / 3;
    expect(inChord).toBeGreaterThan(3 * beside);
  }
});
