import { integratedLoudness, samplePeakDbfs } from '~core/analysis/loudness/loudness';
import { overviewPeaks } from '~core/analysis/peaks/peaks';
import { loadTransforms } from '~core/dsp/real-fft';
import { parseWav } from '~core/formats/wav/parse';
import { writeWav } from '~core/formats/wav/write';
import { projectRateHz } from '~core/units/time';
import { soundPicture } from '~core/workbench/picture';
import { lineOf } from '~core/workbench/retune';
import { applyStep, type BenchSetting, type BenchSound, type Step } from '~core/workbench/steps';
import type { BenchMessage, BenchReply } from './bench-protocol';

let loaded: { readonly url: string; readonly channels: Promise<readonly Float32Array[]> } | null = null;
/** What each row of steps came to, so that only what was changed is done anew. */
let known = new Map<string, BenchSound>();

async function load(url: string): Promise<readonly Float32Array[]> {
  if (loaded?.url === url) return loaded.channels;
  known = new Map();
  const channels = fetch(url).then(async (response) => {
    if (!response.ok) throw new Error(response.status === 401 ? 'You are signed out.' : 'The sound could not be loaded.');
    return parseWav(new Uint8Array(await response.arrayBuffer())).channels;
  });
  loaded = { url, channels };
  channels.catch(() => (loaded = null));
  return channels;
}

function afterSteps(channels: readonly Float32Array[], steps: readonly Step[], setting: BenchSetting): BenchSound {
  const kept = new Map<string, BenchSound>();
  let sound: BenchSound = { ...setting, channels };
  for (let count = 1; count <= steps.length; count++) {
    const key = JSON.stringify([setting, steps.slice(0, count)]);
    sound = known.get(key) ?? applyStep(sound, steps[count - 1]);
    kept.set(key, sound);
  }
  known = new Map([...known, ...kept].slice(-12));
  return sound;
}

self.onmessage = async ({ data: { id, url, steps, setting, shownSteps, withLine } }: MessageEvent<BenchMessage>) => {
  try {
    const [channels] = await Promise.all([load(url), loadTransforms()]),
      began = performance.now(),
      shown = afterSteps(channels, steps.slice(0, shownSteps), setting),
      made = afterSteps(channels, steps, setting),
      { channels: planes, ...rest } = made,
      { channels: shownPlanes, ...shownRest } = shown,
      line = withLine ? lineOf(shown) : null,
      wav = writeWav({ sampleRateHz: projectRateHz, channels: [...planes] }, 'float32');
    const reply: BenchReply = {
      id,
      ok: true,
      shown: {
        ...shownRest,
        channels: shownPlanes,
        picture: soundPicture(shownPlanes),
        line: line && { hopSeconds: line.track.hopSeconds, pitches: line.track.notes, notes: line.notes },
      },
      made: {
        ...rest,
        wav,
        frames: planes[0].length,
        loudnessLufs: integratedLoudness(planes, projectRateHz),
        peakDbfs: samplePeakDbfs(planes),
        overview: overviewPeaks(planes, 240),
        tookMs: performance.now() - began,
      },
    };
    self.postMessage(reply, { transfer: [wav.buffer] });
  } catch (error) {
    self.postMessage({ id, ok: false, message: error instanceof Error ? error.message : String(error) } satisfies BenchReply);
  }
};
