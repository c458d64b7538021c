import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { scheduleProject } from '~core/arrangement/schedule';
import { loadTransforms } from '~core/dsp/real-fft';
import { resampleCyclic } from '~core/dsp/resample';
import { FormatError } from '~core/formats/errors';
import { writeWav } from '~core/formats/wav/write';
import { renderFitted } from '~core/mix/render-fitted';
import { lowerOvers } from '~core/mix/overs';
import { renderMix } from '~core/mix/render';
import { projectRateHz } from '~core/units/time';
import { analyseSoundFile, hearParts } from './analyse-file';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult, RenewRequest, RenewResult } from './protocol';

/** A thread of the CPU pool: messages in, core call, messages out. */
export default async function runTask(request: AnalyseRequest | RenewRequest | ExportRequest): Promise<unknown> {
  switch (request.task) {
    case 'analyse':
      return orMessage(() => analyse(request));
    case 'renew':
      return orMessage(() => renew(request));
    case 'export':
      return exportMix(request);
  }
}

/** What is wrong with a file is an answer, not a failure of the job. */
async function orMessage<T>(work: () => Promise<T>): Promise<T | { readonly ok: false; readonly message: string }> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  }
}

async function analyse({ filePath, vendorPath, scratchDir }: AnalyseRequest): Promise<AnalyseResult> {
  const wavPath = join(scratchDir, `${randomUUID()}.wav`),
    { analysis, format, frames, sound } = await analyseSoundFile(filePath, vendorPath, { withTags: true, wavPath });
  return {
    ok: true,
    media: format === 'midi' ? 'midi' : 'audio',
    format,
    ...analysis,
    soundFrames: frames,
    sound: format === 'midi' ? null : sound ? writeWav(sound, 'float32') : wavPath,
  };
}

const renew = async ({ filePath, vendorPath, parts, given }: RenewRequest): Promise<RenewResult> => ({
  ok: true,
  ...(await hearParts(filePath, vendorPath, parts, given)),
});

async function exportMix({ project, sources, paths, bits, rateHz, overs }: ExportRequest): Promise<ExportResult> {
  const schedule = scheduleProject(project, new Map(sources.map((source) => [source.loopId, source])));
  await loadTransforms();
  const buffers = new Map<string, Float32Array[]>(),
    silent = new Set<string>();
  // One loop that cannot be played costs itself, not the piece.
  for (const [key, request] of schedule.requests)
    try {
      buffers.set(key, renderFitted(request, new Uint8Array(await readFile(paths[request.soundSha]))));
    } catch (error) {
      console.error(`a loop is silent in a mixdown: ${(error as Error).message}`);
      silent.add(request.soundSha);
    }
  const { channels, peakDbfs } = renderMix(project, schedule, buffers),
    out =
      rateHz === projectRateHz
        ? channels
        : channels.map((plane) => resampleCyclic(plane, Math.round((plane.length * rateHz) / projectRateHz))),
    loweredDb = bits !== 32 && overs === 'lower' ? lowerOvers(out) : 0;
  return {
    wav: writeWav({ sampleRateHz: rateHz, channels: out }, bits === 16 ? 'int16' : bits === 24 ? 'int24' : 'float32'),
    peakDbfs,
    loweredDb,
    silentLoopIds: sources.filter(({ soundSha }) => silent.has(soundSha)).map(({ loopId }) => loopId),
  };
}
