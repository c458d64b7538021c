import { expect } from '@playwright/test';
import { takeClip, saved } from '../piece';
import { struck, knocks, amountOf, strongest, barsOf, pieceFrom, heardOf, aloneFrom, writeChords, maximumDifference } from '../struck';
import { comeIn, test } from '../support';

test('guitar, bass and piano on one chord, laid under a progression of ten bars; the drums stay as they are', async ({ page }) => {
  test.slow();
  await comeIn(page);
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
  await comeIn(page);
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
  await comeIn(page);
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
  await comeIn(page);
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
  await comeIn(page);
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
