import { framesPerBeat } from '~core/units/time';

/** A stretch that repeats, in beats. */
export interface BeatRange {
  readonly startBeat: number;
  readonly endBeat: number;
}

/**
 * Where the music is: beat `originBeat` sounds at frame `originFrame` of the audio thread (not whole in general). *Running*
 * beats count on through the repeats of the range; *project* beats are where the playhead is.
 */
export interface Transport {
  readonly originFrame: number;
  readonly originBeat: number;
  readonly tempoBpm: number;
  readonly barBeats: number;
  readonly range: BeatRange | null;
  readonly sampleRateHz: number;
}

export const beatFrames = (transport: Transport): number => framesPerBeat(transport.tempoBpm, transport.sampleRateHz);

export function runningBeatAt(transport: Transport, frame: number): number {
  return transport.originBeat + (frame - transport.originFrame) / beatFrames(transport);
}

export function frameOfRunningBeat(transport: Transport, beat: number): number {
  return transport.originFrame + (beat - transport.originBeat) * beatFrames(transport);
}

/** Running beat to the beat of the project under the playhead. */
export function projectBeat(transport: Transport, runningBeat: number): number {
  const { range } = transport;
  if (!range || runningBeat < range.endBeat || transport.originBeat >= range.endBeat) return runningBeat;
  const length = range.endBeat - range.startBeat;
  return range.startBeat + ((runningBeat - range.startBeat) % length);
}

/** All of a piece, to the end of its last bar; null of nothing. */
export function wholeRange(endBeat: number, barBeats: number): BeatRange | null {
  const end = Math.ceil(endBeat / barBeats - 1e-6) * barBeats;
  return end > 0 ? { startBeat: 0, endBeat: end } : null;
}

/** One pass through the project: running beats `from` to `to` are project beats less `shiftBeats`. */
export interface Pass {
  readonly index: number;
  readonly fromBeat: number;
  readonly toBeat: number;
  readonly shiftBeats: number;
}

/** The passes that touch running beats `from` to `to`. */
export function passesBetween(transport: Transport, from: number, to: number): Pass[] {
  const { range, originBeat } = transport;
  if (!range || originBeat >= range.endBeat) return [{ index: 0, fromBeat: originBeat, toBeat: Infinity, shiftBeats: 0 }];
  const length = range.endBeat - range.startBeat,
    passes: Pass[] = [];
  for (let index = Math.max(0, Math.floor((from - range.endBeat) / length)); ; index++) {
    const toBeat = range.endBeat + index * length,
      fromBeat = index === 0 ? originBeat : toBeat - length;
    if (fromBeat >= to) break;
    if (toBeat > from) passes.push({ index, fromBeat, toBeat, shiftBeats: index * length });
  }
  return passes;
}

export type StartOn = 'now' | 'beat' | 'bar' | 'range';

/** The first running beat at or after `fromBeat` on which a candidate may come in. */
export function nextStart(transport: Transport, fromBeat: number, startOn: StartOn): number {
  if (startOn === 'now') return fromBeat;
  if (startOn === 'beat') return Math.ceil(fromBeat - 1e-6);
  const { range, barBeats } = transport;
  if (startOn === 'range' && range) {
    const length = range.endBeat - range.startBeat;
    return range.startBeat + Math.max(0, Math.ceil((fromBeat - range.startBeat) / length - 1e-9)) * length;
  }
  return Math.ceil(fromBeat / barBeats - 1e-6) * barBeats;
}
