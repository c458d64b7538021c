import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { scheduleProject } from '~core/arrangement/schedule';
import { resampleCyclic } from '~core/dsp/resample';
import { FormatError } from '~core/formats/errors';
import { writeWav } from '~core/formats/wav/write';
import { lowerOvers } from '~core/mix/overs';
import { renderMix } from '~core/mix/render';
import { setOwnInstruments } from '~core/theory/instruments';
import { projectRateHz } from '~core/units/time';
import type { StagedName } from '../../storage/file-storage';
import { storage } from '../../storage/storage.server';
import { analyseSoundFile, hearParts } from './analyse-file';
import { makeSound } from './make-sound';
import { renderRequests } from './render-requests';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult, MakeRequest, RenewRequest, RenewResult } from './protocol';

/** A thread of the CPU pool: messages in, core call, messages out. */
export default async function runTask(request: AnalyseRequest | RenewRequest | ExportRequest | MakeRequest): Promise<unknown> {
  if (request.task === 'analyse' || request.task === 'renew') setOwnInstruments(request.ownInstruments);
  switch (request.task) {
    case 'analyse':
      return orMessage(() => analyse(request));
    case 'renew':
      return orMessage(() => renew(request));
    case 'export':
      return exportMix(request);
    case 'make':
      return makeSound(request);
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

async function analyse({ fileSha256, vendorPath }: AnalyseRequest): Promise<AnalyseResult> {
  return withScratchFile(async (wavPath) => {
    const { analysis, format, frames, sound } = await storage.withLocalFile(fileSha256, (path) =>
      analyseSoundFile(path, vendorPath, { withTags: true, wavPath }),
    );
    return {
      ok: true,
      media: format === 'midi' ? 'midi' : 'audio',
      format,
      ...analysis,
      soundFrames: frames,
      sound: format === 'midi' ? null : sound ? writeWav(sound, 'float32') : await staged(wavPath),
    };
  });
}

/** A file of this task's own, gone when it ends. */
async function withScratchFile<T>(use: (path: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'garnetfinch-'));
  try {
    return await use(join(folder, 'sound.wav'));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A sound that is too long for a message waits in the store for whoever asked. */
async function staged(wavPath: string): Promise<StagedName> {
  const { stagedId, sha256, bytes } = await storage.stage(createReadStream(wavPath));
  return { stagedId, sha256, bytes };
}

const renew = async ({ fileSha256, vendorPath, parts, given }: RenewRequest): Promise<RenewResult> => ({
  ok: true,
  ...(await storage.withLocalFile(fileSha256, (path) => hearParts(path, vendorPath, parts, given))),
});

async function exportMix({ project, sources, bits, rateHz, overs }: ExportRequest): Promise<ExportResult> {
  const schedule = scheduleProject(project, new Map(sources.map((source) => [source.loopId, source])));
  const { buffers, silent } = await renderRequests(schedule.requests),
    { channels, peakDbfs } = renderMix(project, schedule, buffers),
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
