import { expect } from '@playwright/test';
import type { LoopSource } from '../../core/arrangement/fit-request';
import { noOverrides, type ClipOverrides } from '../../core/arrangement/fit-settings';
import { placeLoop, type Heard } from '../../core/arrangement/place';
import { createRandom } from '../../core/synth/random';
import type { Project } from '../../core/arrangement/tree';
import { playFrom } from './piece';
import { comeIn, makeProject, readTap, rms, startTap, test, toDb, visit, waitForFrame, wholeRows } from './support';

/** How many are tried: HEARD_COUNT=40 takes a quarter of an hour. Every switch for itself is tried with each run, in `trust`. */
const count = Number(process.env.HEARD_COUNT ?? 0),
  seed = Number(process.env.HEARD_SEED ?? 7),
  tempoBpm = 118;

/** The first sample that is not silence; NaN for silence. */
const firstSound = (samples: Float32Array): number => {
  const at = samples.findIndex((sample) => Math.abs(sample) > 1e-5);
  return at < 0 ? NaN : at;
};

test(
  `what is placed is what was heard: ${count} candidates of the library at random switches null below −60 dB`,
  { tag: '@alone' },
  async ({ page }) => {
    test.skip(count === 0, 'HEARD_COUNT says how many');
    test.setTimeout(60_000 + count * 45_000);
    const random = createRandom(seed),
      pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)];
    await comeIn(page);
    await visit(page, `/projects/${await makeProject(page, `Heard ${Date.now()}`, tempoBpm, '5m')}`);
    const rows = (await wholeRows(page.request, 'limit=400&sort=title&dir=asc&in=none')) as {
      id: number;
      title: string;
      source: LoopSource;
    }[];
    await startTap(page);
    for (let k = 0; k < count; k++) {
      const row = pick(rows),
        isLoop = row.source.kind === 'loop',
        overrides: ClipOverrides = {
          ...noOverrides,
          shiftSemitones: pick([0, 0, -3, 2, 0.25]),
          reverse: random() < 0.2,
          speedRatio: isLoop ? pick([1, 1, 0.5, 2]) : 1,
        },
        settings = { fitTempo: random() < 0.7, fitKey: random() < 0.7, evenLevel: random() < 0.5, gainDb: pick([0, -6, 2]) };
      // Heard: from a line of the bar on, over a project that has nothing else in it.
      await page.evaluate((changes) => {
        window.tapBlocks.length = 0;
        (window.garnetfinch.engine as unknown as { seek(beat: number): void }).seek(0);
        window.garnetfinch.engine.audition.setSettings(changes);
      }, settings);
      await page.evaluate(() => window.garnetfinch.engine.play());
      await page.evaluate(
        ([wanted, treated]) =>
          (window.garnetfinch.engine.audition as unknown as { hear(request: object): Promise<void> }).hear({
            row: wanted,
            overrides: treated,
            offsetBeats: 0,
          }),
        [row, overrides] as const,
      );
      await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, {
        timeout: 60_000,
      });
      const origin = await page.evaluate(() => Math.round(window.garnetfinch.engine.audition.current?.originFrame ?? 0)),
        length = 60_000;
      await waitForFrame(page, origin + length + 8000);
      const [heard] = await readTap(page, origin - 200, origin + length),
        how = (await page.evaluate(
          ([wanted, treated]) =>
            (window.garnetfinch.engine.audition as unknown as { heard(row: object, overrides: object): object }).heard(wanted, treated),
          [row, overrides] as const,
        )) as Heard;
      await page.evaluate(() => {
        (window.garnetfinch.engine.audition as unknown as { stop(): void }).stop();
        window.garnetfinch.engine.stop();
      });
      // Placed: the same at a bar of the piece, by itself.
      const project = (await page.evaluate(() => window.garnetfinch.projectStore.store.getState().project)) as Project,
        bar = 200 + 16 * k,
        edit = placeLoop(project, {
          loop: row.source,
          title: row.title,
          trackId: null,
          startBeat: bar * 4,
          lengthBars: 4,
          givesWay: 'loop',
          heard: how,
          newClipId: `clip-${k}`,
          newTrackId: `track-${k}`,
        });
      expect(await page.evaluate(([made, loop]) => window.garnetfinch.projectStore.edit(made, [loop]), [edit, row] as const)).toBeNull();
      const { startBeat } = ((await page.evaluate(() => window.garnetfinch.projectStore.store.getState().project)) as Project).tracks[k]
          .clips[0],
        fromBeat = Math.floor(startBeat / 4) * 4 - 4,
        [placed] = await playFrom(page, fromBeat, 12, tempoBpm),
        [a, b] = [firstSound(heard), firstSound(placed)],
        told = `${row.title} ${JSON.stringify({ ...overrides, ...settings })}`;
      if (Number.isNaN(a)) {
        expect([told, rms(placed) < 1e-4]).toEqual([told, true]);
        continue;
      }
      const some = Math.min(heard.length - a, placed.length - b, length - 2000),
        difference = Float32Array.from({ length: some }, (_, i) => heard[a + i] - placed[b + i]),
        nullDb = toDb(rms(difference) / rms(heard, a, a + some));
      test.info().annotations.push({ type: 'heard against placed, dB', description: `${nullDb.toFixed(1)} ${told}` });
      expect([told, nullDb < -60]).toEqual([told, true]);
    }
  },
);
