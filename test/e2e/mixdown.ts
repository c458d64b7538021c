import { expect, type Page } from '@playwright/test';
import { parseWav } from '../../core/formats/wav/parse';
import { rateHz } from './support';

interface ExportForm {
  readonly bits: 16 | 24 | 32;
  readonly rateHz: 44100 | 48000;
}

/** Has the project in the room mixed down as it is kept now, and gives the file. */
export async function mixdownOf(page: Page, form: ExportForm): Promise<ReturnType<typeof parseWav>> {
  await page.waitForFunction(() => window.garnetfinch.projectStore.store.getState().save === 'saved');
  const projectId = await page.evaluate(() => window.garnetfinch.projectStore.store.getState().id),
    address = `/api/v1/projects/${projectId}/exports`,
    asked = await page.request.post(address, { form: { bits: String(form.bits), rateHz: String(form.rateHz) } }),
    { exportId } = (await asked.json()) as { exportId: number },
    stateOf = async () =>
      ((await (await page.request.get(address)).json()) as { exports: { id: number; state: string }[] }).exports.find(
        ({ id }) => id === exportId,
      )?.state;
  await expect.poll(stateOf, { timeout: 90_000, intervals: [50, 100, 200] }).toBe('done');
  return parseWav(new Uint8Array(await (await page.request.get(`/media/export/${exportId}`)).body()));
}

/**
 * What a project sounds like from a beat on, left and right, read from its mixdown: in a fraction of the time that playing takes,
 * and beside other tests. That what is played is what is mixed down, of all that a piece can hold, is a test of its own (`live`).
 */
export async function mixdownFrom(page: Page, fromBeat: number, beats: number, tempoBpm: number): Promise<[Float32Array, Float32Array]> {
  const { channels } = await mixdownOf(page, { bits: 32, rateHz }),
    frameOf = (beat: number) => Math.round((beat * 60 * rateHz) / tempoBpm),
    // Behind the last clip there is silence.
    part = (plane: Float32Array) => {
      const heard = new Float32Array(frameOf(beats));
      heard.set(plane.subarray(frameOf(fromBeat), frameOf(fromBeat) + heard.length));
      return heard;
    };
  return [part(channels[0]), part(channels[1])];
}
