import { buffer } from 'node:stream/consumers';
import type { FitRequest } from '~core/arrangement/fit-request';
import { loadTransforms } from '~core/dsp/real-fft';
import { renderFitted } from '~core/mix/render-fitted';
import { storage } from '../../storage/storage.server';

/** The bytes of a stored file. */
export const storedBytes = async (sha256: string): Promise<Uint8Array> => new Uint8Array(await buffer(storage.read(sha256)));

/** The buffers of a schedule. One loop that cannot be played costs itself, not the piece: its hash is among the silent. */
export async function renderRequests(
  requests: ReadonlyMap<string, FitRequest>,
  onShare: (share: number) => void = () => {},
): Promise<{ readonly buffers: Map<string, Float32Array[]>; readonly silent: ReadonlySet<string> }> {
  await loadTransforms();
  const buffers = new Map<string, Float32Array[]>(),
    silent = new Set<string>();
  let made = 0;
  for (const [key, request] of requests)
    try {
      buffers.set(key, renderFitted(request, request.kind === 'pattern' ? new Uint8Array() : await storedBytes(request.soundSha)));
    } catch (error) {
      console.error(`a loop is silent in what is rendered: ${(error as Error).message}`);
      silent.add(request.soundSha);
    } finally {
      onShare(++made / requests.size);
    }
  return { buffers, silent };
}
