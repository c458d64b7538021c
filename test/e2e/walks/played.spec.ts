import { expect, type Page } from '@playwright/test';
import { mixdownFrom } from '../mixdown';
import { saved } from '../piece';
import { comeIn, makeProject, rms, test, toDb, visit } from '../support';

/** A simulated keyboard: one input that the test presses keys on. */
const plugIn = (page: Page): Promise<unknown> =>
    page.addInitScript(() => {
      const inputs = new Map([['test', { onmidimessage: null as ((event: { data: number[] }) => void) | null }]]);
      Object.assign(window, { testInstrument: inputs.get('test') });
      Object.defineProperty(navigator, 'requestMIDIAccess', { value: async () => ({ inputs, onstatechange: null }) });
    }),
  press = (page: Page, note: number, velocity: number): Promise<void> =>
    page.evaluate(
      (data) => (window as unknown as { testInstrument: { onmidimessage(event: object): void } }).testInstrument.onmidimessage({ data }),
      [velocity > 0 ? 0x90 : 0x80, note, velocity],
    ),
  listening = (page: Page) =>
    page.waitForFunction(() => (window as unknown as { testInstrument: { onmidimessage: unknown } }).testInstrument.onmidimessage !== null);

const chordsOf = (page: Page): Promise<{ startBeat: number; symbol: string }[]> =>
  page.evaluate(
    () => (window.garnetfinch.projectStore.store.getState().project as { chords: { startBeat: number; symbol: string }[] }).chords,
  );

test('a chord is played on a connected keyboard, and stands in the line; then written, made longer and taken out by keys alone', async ({
  page,
}) => {
  await plugIn(page);
  await comeIn(page);
  const projectId = await makeProject(page, `Walk played chord ${Date.now().toString(36)}`, 120, '2m');
  await visit(page, `/projects/${projectId}`);
  await page.getByRole('button', { name: 'An empty track' }).click();
  await page.getByRole('button', { name: /^Harmony/ }).click();
  const panel = page.getByRole('region', { name: 'Harmony' });
  await panel.getByRole('button', { name: 'Play a chord' }).click();
  await listening(page);
  for (const note of [55, 58, 62, 65]) await press(page, note, 90);
  for (const note of [55, 58, 62, 65]) await press(page, note, 0);
  await expect(panel.getByText('Gm7', { exact: true })).toBeVisible();
  await panel.getByRole('button', { name: 'Put it at the playhead' }).click();
  await saved(page);
  expect(await chordsOf(page)).toEqual([{ startBeat: 0, symbol: 'Gm7' }]);
  // By keys: at bar 2 a chord is typed, what is none is refused in words, and what is offered is taken.
  await page.evaluate(() => (window.garnetfinch.engine as unknown as { seek(beat: number): void }).seek(4));
  await page.locator('[data-chord-lane]').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Hx');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“Hx” is no chord.', { exact: false })).toBeVisible();
  await page.getByRole('combobox', { name: 'Chord' }).fill('a');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await saved(page);
  expect(await chordsOf(page)).toEqual([
    { startBeat: 0, symbol: 'Gm7' },
    { startBeat: 4, symbol: 'Am' },
  ]);
  await page.locator('[data-chord-lane]').focus();
  await page.keyboard.press('ArrowRight');
  // Longer by a bar: the next begins later.
  await page.keyboard.press('Shift+ArrowRight');
  await saved(page);
  expect((await chordsOf(page))[1]).toEqual({ startBeat: 8, symbol: 'Am' });
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Delete');
  await saved(page);
  expect(await chordsOf(page)).toEqual([{ startBeat: 0, symbol: 'Gm7' }]);
});

test(
  'notes are played into a pattern over the project, behind a count-in, onto the grid, and are heard',
  { tag: '@alone' },
  async ({ page }) => {
    test.slow();
    await plugIn(page);
    await comeIn(page);
    const projectId = await makeProject(page, `Walk played notes ${Date.now().toString(36)}`, 120, '2m');
    await visit(page, `/projects/${projectId}`);
    await page.getByRole('button', { name: 'An empty track' }).click();
    await page.getByRole('button', { name: 'New notes', exact: true }).click();
    const editor = page.getByRole('region', { name: /^Notes of/ });
    await editor.getByRole('button', { name: 'Play and record' }).click();
    await listening(page);
    await editor.getByLabel('Grid of notes').selectOption('1');
    await editor.getByRole('button', { name: 'Record', exact: true }).click();
    const at = (beat: number) =>
      page.waitForFunction((wanted) => (window.garnetfinch.engine as unknown as { positionBeat(): number }).positionBeat() >= wanted, beat);
    await page.waitForFunction(() => window.garnetfinch.engine.transport !== null);
    for (const [beat, note] of [
      [1, 62],
      [3, 65],
    ] as const) {
      await at(beat);
      await press(page, note, 100);
      await at(beat + 0.5);
      await press(page, note, 0);
    }
    await editor.getByRole('button', { name: 'Stop, 2 played' }).click();
    await saved(page);
    const notes = await page.evaluate(
      () =>
        (
          window.garnetfinch.projectStore.store.getState().project as {
            patterns: { notes: { startBeat: number; pitch: number; velocity: number }[] }[];
          }
        ).patterns[0].notes,
    );
    expect(notes.map(({ startBeat, pitch, velocity }) => [startBeat, pitch, velocity])).toEqual([
      [1, 62, 100],
      [3, 65, 100],
    ]);
    const [left] = await mixdownFrom(page, 0, 4, 120),
      beatFrames = left.length / 4,
      level = (beat: number) => toDb(rms(left, Math.round(beat * beatFrames) + 500, Math.round((beat + 0.4) * beatFrames)));
    expect(level(1)).toBeGreaterThan(-50);
    expect(level(3)).toBeGreaterThan(-50);
    expect(level(0)).toBeLessThan(-80);
  },
);
