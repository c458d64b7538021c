import { expect, type Page } from '@playwright/test';
import { newClip, newTrack } from '../../../core/arrangement/tree';
import { mixdownFrom } from '../mixdown';
import { editBy, layPiece, takeClip, tracksOf, saved } from '../piece';
import { tempoBpm, bar, amountOf, writeChords, maximumDifference } from '../struck';
import { comeIn, makeProject, rateHz, test, visit } from '../support';

/** The notes of the pattern that is open. */
const notesOf = (page: Page): Promise<{ startBeat: number; pitch: number }[]> =>
  page.evaluate(() =>
    (
      window.garnetfinch.projectStore.store.getState().project as { patterns: { notes: { startBeat: number; pitch: number }[] }[] }
    ).patterns.flatMap(({ notes }) => notes),
  );

test('a cowbell instead of a cymbal at bar 2 of a pattern of two bars is heard in every repetition; by keys alone', async ({ page }) => {
  test.slow();
  await comeIn(page);
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
  const [before] = await mixdownFrom(page, 0, 32, tempoBpm);
  await roll.focus();
  await page.keyboard.press('Tab');
  for (let k = 0; k < 7; k++) await page.keyboard.press('ArrowUp');
  expect(await notesOf(page)).toMatchObject([{ startBeat: 4, pitch: 56 }]);
  await saved(page);
  const [after] = await mixdownFrom(page, 0, 32, tempoBpm),
    second = (samples: Float32Array, time: number) =>
      samples.slice(Math.round((2 * time + 1) * bar * rateHz), Math.round((2 * time + 2) * bar * rateHz));
  for (let time = 0; time < 4; time++) {
    expect(maximumDifference(second(after, time), second(after, 0))).toBeLessThan(1e-4);
    expect(maximumDifference(second(after, time), second(before, time))).toBeGreaterThan(0.05);
  }
});

test('notes of the library become a pattern, are played by another instrument, and follow the chords', async ({ page }) => {
  test.slow();
  await comeIn(page);
  const { rows } = (await (await page.request.get('/api/v1/loops?q=Electric%20Piano&limit=50&in=none')).json()) as {
      rows: { id: number; title: string; source: { media: string } }[];
    },
    row = rows.find(({ title, source }) => title === 'Electric Piano 01' && source.media === 'midi');
  if (!row) throw new Error('no notes in the library');
  await layPiece(page, { name: `Walk instrument ${Date.now().toString(36)}`, tempoBpm }, [
    {
      kind: 'add-track',
      index: 0,
      track: newTrack({ id: 'keys', name: 'Keys', clips: [newClip({ id: 'clip', loopId: row.id, startBeat: 0, lengthBeats: 16 })] }),
    },
  ]);
  const [asLoop] = await mixdownFrom(page, 0, 8, tempoBpm);
  await takeClip(page, 0, 1);
  await page.keyboard.press('p');
  const editor = page.getByRole('region', { name: /^Notes of/ });
  await expect(editor).toBeVisible();
  expect((await notesOf(page)).length).toBeGreaterThan(4);
  await saved(page);
  const [asPattern] = await mixdownFrom(page, 0, 8, tempoBpm),
    level = (samples: Float32Array) => 10 * Math.log10(samples.reduce((sum, value) => sum + value * value, 0) / samples.length + 1e-12);
  // The same notes by the same instrument are as loud.
  expect(Math.abs(level(asPattern) - level(asLoop))).toBeLessThan(1.5);
  await editor.getByLabel('Instrument').selectOption('organ');
  await saved(page);
  const [asOrgan] = await mixdownFrom(page, 0, 8, tempoBpm);
  expect(maximumDifference(asOrgan, asPattern)).toBeGreaterThan(0.02);
  expect(level(asOrgan)).toBeGreaterThan(-50);
  await editor.getByLabel('How it goes with the chords').selectOption('roots');
  await saved(page);
  await writeChords(page, 'C . F .');
  const [overChords] = await mixdownFrom(page, 0, 16, tempoBpm);
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
