import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { scheduleProject } from '~core/arrangement/schedule';
import { loadTransforms } from '~core/dsp/real-fft';
import { resampleCyclic } from '~core/dsp/resample';
import { FormatError } from '~core/formats/errors';
import { writeWav } from '~core/formats/wav/write';
import { makeFitted } from '~core/mix/load-fit';
import { renderMix } from '~core/mix/render';
import { projectRateHz } from '~core/units/time';
import { hearFile } from './hear-file';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult } from './protocol';

/** A thread of the CPU pool: messages in, core call, messages out. */
export default async function runTask(request: AnalyseRequest | ExportRequest): Promise<unknown> {
  return request.task === 'analyse' ? analyse(request) : exportMix(request);
}

async function analyse({ filePath, vendorPath, scratchDir, said }: AnalyseRequest): Promise<AnalyseResult> {
  try {
    const wavPath = scratchDir && join(scratchDir, `${randomUUID()}.wav`),
      { analysis, format, frames, sound } = await hearFile(filePath, vendorPath, { withTags: true, wavPath, said });
    return {
      ok: true,
      media: format === 'midi' ? 'midi' : 'audio',
      format,
      ...analysis,
      soundFrames: frames,
      sound: format === 'midi' || !wavPath ? null : sound ? writeWav(sound, 'float32') : wavPath,
    };
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  }
}

async function exportMix({ project, sources, paths, bits, rateHz }: ExportRequest): Promise<ExportResult> {
  const schedule = scheduleProject(project, new Map(sources.map((source) => [source.loopId, source])));
  await loadTransforms();
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
