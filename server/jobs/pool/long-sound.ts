import { closeSync, openSync, rmSync, writeSync } from 'node:fs';
import type { WholeSound } from '~core/analysis/analysis';
import { overviewColumns } from '~core/analysis/analysis';
import { LevelMeter } from '~core/analysis/level/level-meter';
import { longestHeardSeconds } from '~core/analysis/listen/hear';
import { PeakCollector } from '~core/analysis/peaks/peak-collector';
import { StreamResampler } from '~core/dsp/stream-resampler';
import type { PcmAudio } from '~core/formats/pcm';
import { writeWav } from '~core/formats/wav/write';
import { ratioToDb } from '~core/units/level';
import { projectRateHz } from '~core/units/time';
import type { SoundStream } from './sound-stream';

/** Files longer than this are read piece by piece: decoded as a whole, twenty minutes of stereo would take half a gigabyte. */
export const longFromSeconds = 150;

export interface LongSound {
  /** What is heard of it, at the project's rate, its first minutes. */
  readonly head: PcmAudio;
  readonly whole: WholeSound;
  readonly frames: number;
}

/**
 * Reads a long sound once from start to end: its first minutes are kept for the ear, levels and the picture are measured on the way, and
 * all of it goes as a float WAV at the project's rate to `wavPath`, if one is given. Memory does not grow with the length.
 * @throws {FormatError} with a sentence for the person; nothing is left at `wavPath` then
 */
export async function readLongSound(stream: SoundStream, wavPath: string | null): Promise<LongSound> {
  const out = wavPath === null ? null : openSync(wavPath, 'w');
  try {
    const read = await readAll(stream, out);
    if (out !== null) closeSync(out);
    return read;
  } catch (error) {
    if (out !== null) closeSync(out);
    if (wavPath !== null) rmSync(wavPath, { force: true });
    throw error;
  }
}

async function readAll(stream: SoundStream, out: number | null): Promise<LongSound> {
  const { sampleRateHz } = stream,
    headFrames = longestHeardSeconds * projectRateHz,
    peaks = new PeakCollector();
  let resampler: StreamResampler | null = null,
    meter: LevelMeter | null = null,
    head: Float32Array[] = [],
    frames = 0;
  const take = (planes: readonly Float32Array[]) => {
    const count = planes[0].length;
    if (!meter) {
      meter = new LevelMeter(planes.length, projectRateHz);
      head = planes.map(() => new Float32Array(headFrames));
      if (out !== null)
        writeSync(out, writeWav({ sampleRateHz: projectRateHz, channels: planes.map(() => new Float32Array(0)) }, 'float32'));
    }
    meter.push(planes);
    peaks.push(planes);
    planes.forEach((plane, channel) => {
      if (frames < headFrames) head[channel].set(plane.subarray(0, headFrames - frames), frames);
    });
    if (out !== null) writeSync(out, interleaved(planes));
    frames += count;
  };
  for await (const planes of stream.pieces()) {
    if (sampleRateHz === projectRateHz) take(planes);
    else {
      resampler ??= new StreamResampler(sampleRateHz, projectRateHz, planes.length);
      const made = resampler.push(planes);
      if (made[0].length) take(made);
    }
  }
  if (resampler) {
    const rest = (resampler as StreamResampler).finish();
    if (rest[0].length) take(rest);
  }
  const done = meter as unknown as LevelMeter;
  if (out !== null) patchSizes(out, frames * head.length * 4);
  const { lastSoundSeconds, endLevelDb } = peaks.end(projectRateHz);
  return {
    head: { sampleRateHz: projectRateHz, channels: head.map((plane) => plane.subarray(0, frames)) },
    frames,
    whole: {
      lengthSeconds: frames / projectRateHz,
      levels: done.finish(),
      peakDbfs: done.samplePeak > 0 ? ratioToDb(done.samplePeak) : null,
      overview: peaks.overview(overviewColumns),
      lastSoundSeconds,
      endLevelDb,
    },
  };
}

function interleaved(planes: readonly Float32Array[]): Uint8Array {
  const all = new Float32Array(planes.length * planes[0].length);
  planes.forEach((plane, channel) => {
    for (let i = 0, at = channel; i < plane.length; i++, at += planes.length) all[at] = plane[i];
  });
  return new Uint8Array(all.buffer);
}

/** The two sizes in a WAV header of 44 bytes, once they are known. */
function patchSizes(out: number, dataBytes: number): void {
  const size = Buffer.alloc(4);
  size.writeUInt32LE(dataBytes + 36);
  writeSync(out, size, 0, 4, 4);
  size.writeUInt32LE(dataBytes);
  writeSync(out, size, 0, 4, 40);
}
