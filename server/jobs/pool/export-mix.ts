import { scheduleProject } from '~core/arrangement/schedule';
import { resampleCyclic } from '~core/dsp/resample';
import { writeWav } from '~core/formats/wav/write';
import { lowerOvers } from '~core/mix/overs';
import { renderMix } from '~core/mix/render';
import { projectRateHz } from '~core/units/time';
import type { ExportForm, ExportRequest, ExportResult } from './protocol';
import { renderRequests } from './render-requests';
import { progressTeller } from './tell-progress';

/** What a piece plays, and its loops made ready; which of them could not be played. */
export async function madeReady({ project, sources }: Pick<ExportRequest, 'project' | 'sources'>, onShare: (share: number) => void) {
  const schedule = scheduleProject(project, new Map(sources.map((source) => [source.loopId, source]))),
    { buffers, silent } = await renderRequests(schedule.requests, onShare);
  return {
    schedule,
    buffers,
    silentLoopIds: sources.filter(({ soundSha }) => silent.has(soundSha)).map(({ loopId }) => loopId),
  };
}

/** Planes at the project's rate as planes at another. */
export const atRate = (channels: readonly Float32Array[], rateHz: number): Float32Array[] =>
  rateHz === projectRateHz
    ? [...channels]
    : channels.map((plane) => resampleCyclic(plane, Math.round((plane.length * rateHz) / projectRateHz)));

export const wavOf = (channels: readonly Float32Array[], { bits, rateHz }: Pick<ExportForm, 'bits' | 'rateHz'>): Uint8Array =>
  writeWav({ sampleRateHz: rateHz, channels: [...channels] }, bits === 16 ? 'int16' : bits === 24 ? 'int24' : 'float32');

/** A piece as one WAV file, through the same schedule as the live engine. */
export async function exportMix(request: ExportRequest): Promise<ExportResult> {
  const { project, bits, rateHz, overs, name } = request,
    tell = progressTeller(name),
    { schedule, buffers, silentLoopIds } = await madeReady(request, (share) => tell(0.9 * share)),
    { channels, peakDbfs } = renderMix(project, schedule, buffers),
    out = atRate(channels, rateHz),
    loweredDb = bits !== 32 && overs === 'lower' ? lowerOvers(out) : 0;
  return { wav: wavOf(out, request), peakDbfs, loweredDb, silentLoopIds };
}
