import { randomUUID } from 'node:crypto';
import { mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { analyseAudio } from '~core/analysis/analyse-audio';
import { analyseNotes } from '~core/analysis/analyse-notes';
import { scheduleProject } from '~core/arrangement/schedule';
import { loadTransforms } from '~core/dsp/real-fft';
import { resampleCyclic } from '~core/dsp/resample';
import { FormatError } from '~core/formats/errors';
import { lengthFrames } from '~core/formats/pcm';
import { sniffFormat } from '~core/formats/sniff';
import { parseSmf } from '~core/formats/smf/parse';
import { writeWav } from '~core/formats/wav/write';
import { makeFitted } from '~core/mix/load-fit';
import { renderMix } from '~core/mix/render';
import { projectRateHz } from '~core/units/time';
import { decodeFile, toProjectRate } from './decode';
import { longFromSeconds, readLongFile } from './long-sound';
import { promisedSeconds } from './sound-stream';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult } from './protocol';

/** A thread of the CPU pool: messages in, core call, messages out. */
export default async function runTask(request: AnalyseRequest | ExportRequest): Promise<unknown> {
  return request.task === 'analyse' ? analyse(request) : exportMix(request);
}

async function analyse({ filePath, vendorPath, scratchDir }: AnalyseRequest): Promise<unknown> {
  try {
    if ((promisedSeconds(filePath) ?? 0) > longFromSeconds) return await analyseLong(filePath, vendorPath, scratchDir);
    const bytes = new Uint8Array(await readFile(filePath));
    if (sniffFormat(bytes) === 'midi') {
      const { evidence, measures } = analyseNotes(parseSmf(bytes), vendorPath);
      return { ok: true, media: 'midi', format: 'midi', evidence, measures, soundFrames: 0, sound: null } satisfies AnalyseResult;
    }
    await loadTransforms();
    const { pcm, tags, format } = await decodeFile(bytes);
    const sound = toProjectRate(pcm);
    const { evidence, measures } = analyseAudio(sound, vendorPath, tags);
    const wav = writeWav(sound, 'float32');
    return { ok: true, media: 'audio', format, evidence, measures, soundFrames: lengthFrames(sound), sound: wav } satisfies AnalyseResult;
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message } satisfies AnalyseResult;
    throw error;
  }
}

async function analyseLong(filePath: string, vendorPath: string, scratchDir: string): Promise<AnalyseResult> {
  await loadTransforms();
  await mkdir(scratchDir, { recursive: true });
  const sound = join(scratchDir, `${randomUUID()}.wav`),
    { head, whole, frames, format, tags } = await readLongFile(filePath, sound);
  const { evidence, measures } = analyseAudio(head, vendorPath, tags, whole);
  return { ok: true, media: 'audio', format, evidence, measures, soundFrames: frames, sound };
}

async function exportMix({ project, sources, paths, bits, rateHz }: ExportRequest): Promise<ExportResult> {
  const schedule = scheduleProject(project, new Map(sources.map((source) => [source.loopId, source])));
  const buffers = new Map<string, Float32Array[]>();
  for (const [key, request] of schedule.requests)
    buffers.set(key, makeFitted(request, new Uint8Array(await readFile(paths[request.soundSha]))));
  const { channels, peakDbfs } = renderMix(project, schedule, buffers);
  const out =
    rateHz === projectRateHz
      ? channels
      : channels.map((plane) => resampleCyclic(plane, Math.round((plane.length * rateHz) / projectRateHz)));
  return { wav: writeWav({ sampleRateHz: rateHz, channels: out }, bits === 16 ? 'int16' : 'int24'), peakDbfs };
}
