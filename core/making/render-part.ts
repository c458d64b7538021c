import { scheduleProject, type Schedule } from '../arrangement/schedule';
import type { LoopSource } from '../arrangement/fit-request';
import type { Project } from '../arrangement/tree';
import { renderMix, type FittedBuffers } from '../mix/render';
import { beatToFrame, projectRateHz } from '../units/time';
import type { Tail } from './part';

/** What a part plays, for whoever makes the buffers ready. */
export const scheduleOfPart = (part: Project, sources: readonly LoopSource[]): Schedule =>
  scheduleProject(part, new Map(sources.map((source) => [source.loopId, source])));

/**
 * A part as a loop: through the schedule, as it is heard in the piece.
 * @param lengthBeats to which whole frame it is made; what rings on behind it goes by `tail`
 * @returns left and right; longer than the beats only where a tail is kept
 */
export function renderPart(
  part: Project,
  schedule: Schedule,
  buffers: FittedBuffers,
  lengthBeats: number,
  tail: Tail,
): [Float32Array, Float32Array] {
  const frames = Math.max(1, beatToFrame(lengthBeats, part.tempoBpm, projectRateHz)),
    { channels } = renderMix(part, schedule, buffers);
  return channels.map((plane) => {
    if (tail === 'keep' && plane.length > frames) return plane;
    const out = new Float32Array(frames);
    out.set(plane.subarray(0, frames));
    if (tail === 'wrap') for (let i = frames; i < plane.length; i++) out[i % frames] += plane[i];
    return out;
  }) as [Float32Array, Float32Array];
}
