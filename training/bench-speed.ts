import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { analyseAudio } from '../core/analysis/analyse-audio';
import { loadTransforms } from '../core/dsp/real-fft';
import { noTags } from '../core/formats/tags/embedded';
import { lengthFrames, type PcmAudio } from '../core/formats/pcm';
import { projectRateHz } from '../core/units/time';
import { decodeFile } from '../server/jobs/pool/decode';
import type { Truth } from './truth';

/** The compiler of the running program has seen all of it after so many files; a worker hears thousands. */
const warmUpFiles = 20;

export interface HearingSpeed {
  /** Seconds of sound for a second of CPU, all threads of this process counted. */
  readonly timesRealTime: number;
  readonly files: number;
  readonly audioSeconds: number;
}

/** How fast all facts of stereo loops at 44.1 kHz are found, decoded before: what hearing itself costs. null when the set has none. */
export async function hearingSpeed(folder: string, truths: readonly Truth[], most = 120): Promise<HearingSpeed | null> {
  await loadTransforms();
  const sounds: PcmAudio[] = [];
  for (const { file, isLoop } of truths) {
    if (!isLoop || sounds.length >= most) continue;
    const { pcm } = await decodeFile(new Uint8Array(readFileSync(join(folder, file))));
    if (pcm.sampleRateHz === projectRateHz && pcm.channels.length === 2) sounds.push(pcm);
  }
  if (!sounds.length) return null;
  for (const pcm of sounds.slice(0, warmUpFiles)) analyseAudio(pcm, '', noTags);
  const before = process.cpuUsage();
  for (const pcm of sounds) analyseAudio(pcm, '', noTags);
  const { user, system } = process.cpuUsage(before),
    audioSeconds = sounds.reduce((sum, pcm) => sum + lengthFrames(pcm) / pcm.sampleRateHz, 0);
  return { timesRealTime: audioSeconds / ((user + system) / 1e6), files: sounds.length, audioSeconds };
}
