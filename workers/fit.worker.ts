import { integratedLoudness } from '~core/analysis/loudness/loudness';
import { loadTransforms } from '~core/dsp/real-fft';
import { renderFitted } from '~core/mix/render-fitted';
import { projectRateHz } from '~core/units/time';
import type { FitMessage, FitReply } from './protocol';

/** Sounds fetched lately: moving one semitone further must not fetch again. */
const keptSounds = 6;
const sounds = new Map<string, Promise<Uint8Array>>();

function loadSound(url: string): Promise<Uint8Array> {
  const known = sounds.get(url);
  if (known) {
    sounds.delete(url);
    sounds.set(url, known);
    return known;
  }
  const loading = fetch(url).then(async (response) => {
    if (!response.ok) throw new Error(response.status === 401 ? 'You are signed out.' : 'The sound could not be loaded.');
    return new Uint8Array(await response.arrayBuffer());
  });
  loading.catch(() => sounds.delete(url));
  sounds.set(url, loading);
  if (sounds.size > keptSounds) sounds.delete(sounds.keys().next().value as string);
  return loading;
}

self.onmessage = async ({ data: { id, request, url, sound: own } }: MessageEvent<FitMessage>) => {
  try {
    // Notes of a project lie in the request.
    const [sound] = await Promise.all([request.kind === 'pattern' ? new Uint8Array() : (own ?? loadSound(url)), loadTransforms()]),
      channels = renderFitted(request, sound);
    const reply: FitReply = {
      id,
      ok: true,
      channels,
      loudnessLufs: request.kind === 'notes' ? integratedLoudness(channels, projectRateHz) : null,
    };
    self.postMessage(reply, { transfer: channels.map((plane) => plane.buffer) });
  } catch (error) {
    self.postMessage({ id, ok: false, message: error instanceof Error ? error.message : String(error) } satisfies FitReply);
  }
};
