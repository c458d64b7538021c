import { expect, type Page } from '@playwright/test';
import { wavOf, zipOf } from './support';

/** Four to the bar at a tempo: a kick, or a tone that is struck. A little different each time, since the library knows a file it has seen. */
export function beatWav(tempoBpm: number, beats: number, pitchHz = 90, decaySeconds = 0.04): Uint8Array {
  const level = 0.4 + Math.random() * 0.2,
    beatSeconds = 60 / tempoBpm;
  return wavOf(beats * beatSeconds, (t) => {
    const since = t % beatSeconds;
    return level * Math.exp(-since / decaySeconds) * Math.sin(2 * Math.PI * pitchHz * since);
  });
}

export interface Sent {
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** Brings files in as one zip, by the API. @returns the pack */
export async function bringIn(page: Page, packName: string, files: readonly Sent[]): Promise<number> {
  const post = async (form: Record<string, string>) =>
      (await (await page.request.post('/api/v1/imports', { form })).json()) as { batchId?: number },
    { batchId } = await post({ intent: 'open', packName });
  await page.request.put(`/api/v1/imports/${batchId}/files?path=all.zip`, {
    data: Buffer.from(await zipOf(files)),
    headers: { 'Content-Type': 'application/zip' },
  });
  await post({ intent: 'start', batchId: String(batchId) });
  const find = async () => {
    const { batches } = (await (await page.request.get('/api/v1/imports')).json()) as {
      batches: { id: number; state: string; packId: number }[];
    };
    return batches.find(({ id }) => id === batchId);
  };
  await expect.poll(async () => (await find())?.state, { timeout: 400_000, intervals: [500] }).toBe('done');
  return (await find())?.packId ?? 0;
}
