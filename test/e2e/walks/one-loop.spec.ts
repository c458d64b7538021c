import { expect } from '@playwright/test';
import { mixdownFrom } from '../mixdown';
import { barsOf, dragRange, goToBar, levelsOf, pieceOf, takeClip, tracksOf } from '../piece';
import { comeIn, test } from '../support';

/** What there is of each twelfth of a semitone from 50 Hz on, over four octaves. */
function byPitch(samples: Float32Array): number[] {
  return Array.from({ length: 48 * 12 }, (_, k) => {
    const hz = 50 * 2 ** (k / 144);
    let [re, im] = [0, 0];
    for (let i = 0; i < samples.length; i += 8) {
      const angle = (2 * Math.PI * hz * i) / 44100;
      re += samples[i] * Math.cos(angle);
      im += samples[i] * Math.sin(angle);
    }
    return Math.sqrt(Math.hypot(re, im));
  });
}

/** By how many semitones the second is the first moved: where the two pictures lie best on each other. */
function movedBy(first: readonly number[], second: readonly number[]): number {
  let best = 0,
    most = -Infinity;
  for (let shift = -144; shift <= 144; shift++) {
    let [both, ofFirst, ofSecond] = [0, 0, 0];
    for (let k = Math.max(0, -shift); k < first.length && k + shift < second.length; k++) {
      both += first[k] * second[k + shift];
      ofFirst += first[k] ** 2;
      ofSecond += second[k + shift] ** 2;
    }
    const alike = both / Math.sqrt(ofFirst * ofSecond);
    if (alike > most) [best, most] = [shift, alike];
  }
  return best / 12;
}

test('a loop of 124 in a piece of 120, repeated to 12 bars: each bar sounds as the one four bars before', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk 124 in 120 ${Date.now()}`, [['Piston A1', 4]], { tempoBpm: 120, sectionBars: [12] });
  await takeClip(page, 0, 1);
  await page.keyboard.press('e');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–12']);
  await expect(page.getByRole('region', { name: 'Chosen clip' })).toContainText('−3.2 %');
  const [left] = await mixdownFrom(page, 16, 32, 120),
    bars = levelsOf(left, 8);
  expect(Math.min(...bars)).toBeGreaterThan(-50);
  for (let bar = 4; bar < 8; bar++) expect(Math.abs(bars[bar] - bars[bar - 4])).toBeLessThan(0.5);
});

test('one bass eight semitones down for four bars, then four down: the second half sounds four above the first', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk transposed ${Date.now()}`, [['Bass Fingered 05', 8]]);
  await goToBar(page, 5);
  await takeClip(page, 0, 1);
  await page.keyboard.press('s');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–4', '5–8']);
  await takeClip(page, 0, 1);
  for (let k = 0; k < 8; k++) await page.keyboard.press('Alt+ArrowDown');
  await takeClip(page, 0, 5);
  for (let k = 0; k < 4; k++) await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(async () => (await tracksOf(page))[0].clips.map(({ shiftSemitones }) => shiftSemitones)).toEqual([-8, -4]);
  const [left] = await mixdownFrom(page, 0, 32, 124),
    half = Math.floor(left.length / 2),
    bar = Math.floor(left.length / 8);
  expect(Math.abs(movedBy(byPitch(left.subarray(0, bar)), byPitch(left.subarray(half, half + bar))) - 4)).toBeLessThan(0.3);
});

test('only the first two bars of a piano, over and over: bars 3 and 4 sound as 1 and 2', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk part ${Date.now()}`, [['Piano Chords 01', 8]], { tempoBpm: 96 });
  const [before] = await mixdownFrom(page, 0, 16, 96);
  await dragRange(page, 1, 3);
  await takeClip(page, 0, 1);
  await page.keyboard.press('Shift+R');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–2', '3–4', '5–6', '7–8']);
  const [after] = await mixdownFrom(page, 0, 16, 96),
    half = Math.floor(after.length / 2),
    // Behind the short fades at the seam, and before them.
    differs = (samples: Float32Array) => {
      let [apart, whole] = [0, 0];
      for (let i = 2000; i < half - 2000; i++) {
        apart += (samples[i] - samples[half + i]) ** 2;
        whole += samples[i] ** 2;
      }
      return 10 * Math.log10(apart / whole + 1e-12);
    };
  expect(differs(before)).toBeGreaterThan(-12);
  expect(differs(after)).toBeLessThan(-40);
  await page.keyboard.press('Control+z');
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–8']);
});

test('percussion in bars 1–2 and 5–6: the bars between are silent', async ({ page }) => {
  test.slow();
  await comeIn(page);
  await pieceOf(page, `Walk gaps ${Date.now()}`, [['Shaker 62 A', 8]]);
  await takeClip(page, 0, 1);
  await page.getByRole('button', { name: 'Gaps …' }).click();
  await page.getByRole('button', { name: 'two bars on, two off' }).click();
  await expect.poll(() => barsOf(page, 0)).toEqual(['1–2', '5–6']);
  const [left] = await mixdownFrom(page, 0, 24, 124),
    bars = levelsOf(left, 6);
  for (const bar of [0, 1, 4, 5]) expect(bars[bar]).toBeGreaterThan(-55);
  // The first moments of the gap hold the fade of what ended.
  const gap = left.subarray(Math.round(left.length / 3) + 2000, Math.round((left.length * 4) / 6) - 2000);
  expect(levelsOf(gap, 1)[0]).toBeLessThan(-80);
});
