import { envelopeGain } from '../arrangement/envelope';
import type { Project } from '../arrangement/tree';
import type { Schedule, SoundEvent } from '../arrangement/schedule';
import { dbToRatio, ratioToDb } from '../units/level';
import { stereoPanGains } from './pan';

export type FittedBuffers = ReadonlyMap<string, readonly Float32Array[]>;

export interface Mixdown {
  /** Left and right. */
  readonly channels: readonly [Float32Array, Float32Array];
  readonly peakDbfs: number | null;
}

/**
 * The schedule as samples, exactly as the live engine plays it: event fades, clip gain, track gain and pan, master gain.
 * Events whose buffer is missing are silent. `onProgress` gets 0–1.
 */
export function renderMix(
  project: Project,
  schedule: Schedule,
  buffers: FittedBuffers,
  onProgress: (share: number) => void = () => {},
): Mixdown {
  const channels: [Float32Array, Float32Array] = [new Float32Array(schedule.endFrame), new Float32Array(schedule.endFrame)];
  const tracks = new Map(project.tracks.map((track) => [track.id, track]));
  schedule.events.forEach((event, index) => {
    const track = tracks.get(event.trackId),
      buffer = buffers.get(event.bufferKey);
    if (track && buffer) addEvent(channels, event, buffer, dbToRatio(track.gainDb), stereoPanGains(track.pan));
    onProgress((index + 1) / schedule.events.length);
  });
  const master = dbToRatio(project.masterGainDb);
  let peak = 0;
  for (const plane of channels)
    for (let i = 0; i < plane.length; i++) {
      plane[i] *= master;
      const size = Math.abs(plane[i]);
      if (size > peak) peak = size;
    }
  return { channels, peakDbfs: peak > 0 ? ratioToDb(peak) : null };
}

function addEvent(
  out: readonly [Float32Array, Float32Array],
  event: SoundEvent,
  buffer: readonly Float32Array[],
  trackGain: number,
  [ll, rl, lr, rr]: readonly [number, number, number, number],
): void {
  const left = buffer[0],
    right = buffer[1] ?? buffer[0];
  const length = event.endFrame - event.startFrame,
    total = length + event.fadeOutFrames;
  for (let i = 0; i < total; i++) {
    let at = event.offsetFrame + i;
    if (at >= left.length) {
      if (!event.cyclic) break;
      at %= left.length;
    }
    const frame = event.startFrame + i;
    if (frame >= out[0].length) break;
    const shape = event.envelope ? envelopeGain(event.envelope, frame) : 1,
      gain = event.gainRatio * trackGain * edgeGain(event, i, length) * shape;
    out[0][frame] += (left[at] * ll + right[at] * rl) * gain;
    out[1][frame] += (left[at] * lr + right[at] * rr) * gain;
  }
}

/** Linear fades: in over the first frames, out over the frames behind the end. */
function edgeGain(event: SoundEvent, i: number, length: number): number {
  if (i >= length) return 1 - (i - length) / event.fadeOutFrames;
  return i < event.fadeInFrames ? i / event.fadeInFrames : 1;
}
