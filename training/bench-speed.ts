import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { analyseAudio, analyseParts } from '../core/analysis/analyse-audio';
import { allParts, outdatedParts, parts, partVersions, type Part } from '../core/analysis/parts';
import { isSaidBy } from '../core/analysis/said-by';
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

/** Stereo loops of a set at 44.1 kHz, decoded. */
async function stereoLoops(folder: string, truths: readonly Truth[], most: number): Promise<PcmAudio[]> {
  await loadTransforms();
  const sounds: PcmAudio[] = [];
  for (const { file, isLoop } of truths) {
    if (!isLoop || sounds.length >= most) continue;
    const { pcm } = await decodeFile(new Uint8Array(readFileSync(join(folder, file))));
    if (pcm.sampleRateHz === projectRateHz && pcm.channels.length === 2) sounds.push(pcm);
  }
  return sounds;
}

/** CPU of all threads of this process. */
function cpuSecondsOf(work: () => void): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

/** How fast all facts of stereo loops at 44.1 kHz are found, decoded before: what hearing itself costs. null when the set has none. */
export async function hearingSpeed(folder: string, truths: readonly Truth[], most = 120): Promise<HearingSpeed | null> {
  const sounds = await stereoLoops(folder, truths, most);
  if (!sounds.length) return null;
  for (const pcm of sounds.slice(0, warmUpFiles)) analyseAudio(pcm, '', noTags);
  const cpuSeconds = cpuSecondsOf(() => {
      for (const pcm of sounds) analyseAudio(pcm, '', noTags);
    }),
    audioSeconds = sounds.reduce((sum, pcm) => sum + lengthFrames(pcm) / pcm.sampleRateHz, 0);
  return { timesRealTime: audioSeconds / cpuSeconds, files: sounds.length, audioSeconds };
}

/** What share of the CPU of hearing all it takes to hear again what a change of each part outdates, on the same loops. */
export async function renewalShares(
  folder: string,
  truths: readonly Truth[],
  most = 40,
): Promise<{ changed: Part; heard: readonly Part[]; share: number }[]> {
  const loops = (await stereoLoops(folder, truths, most)).map((pcm) => ({
      file: { pcm, path: '', tags: noTags, whole: null },
      full: analyseAudio(pcm, '', noTags),
    })),
    again = (wanted: ReadonlySet<Part>): number =>
      cpuSecondsOf(() => {
        for (const { file, full } of loops)
          analyseParts(file, wanted, {
            evidence: full.evidence.filter((each) => !isSaidBy(wanted, each)),
            readings: wanted.has('rhythm') ? null : (full.measures.detail?.readings ?? []),
          });
      }),
    all = again(allParts);
  return parts.map((changed) => {
    const wanted = outdatedParts(partVersions, { ...partVersions, [changed]: -1 });
    return { changed, heard: [...wanted], share: again(wanted) / all };
  });
}
