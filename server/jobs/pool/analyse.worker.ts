import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { FormatError } from '~core/formats/errors';
import { writeWav } from '~core/formats/wav/write';
import { setOwnInstruments } from '~core/theory/instruments';
import type { StagedName } from '../../storage/file-storage';
import { storage } from '../../storage/storage.server';
import { analyseSoundFile, hearParts } from './analyse-file';
import { exportMix } from './export-mix';
import { exportStems } from './export-stems';
import { makeSound } from './make-sound';
import type { AnalyseRequest, AnalyseResult, PoolRequest, RenewRequest, RenewResult, Scratch } from './protocol';

/** A thread of the CPU pool: messages in, core call, messages out. */
export default async function runTask(request: PoolRequest & Scratch): Promise<unknown> {
  if (request.task === 'analyse' || request.task === 'renew') setOwnInstruments(request.ownInstruments);
  switch (request.task) {
    case 'analyse':
      return orMessage(() => analyse(request));
    case 'renew':
      return orMessage(() => renew(request));
    case 'export':
      return exportMix(request);
    case 'stems':
      return exportStems(request);
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

async function analyse({ fileSha256, vendorPath, scratchFolder }: AnalyseRequest & Scratch): Promise<AnalyseResult> {
  const wavPath = join(scratchFolder, 'sound.wav'),
    { analysis, format, frames, sound } = await storage.withLocalFile(fileSha256, (path) =>
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
