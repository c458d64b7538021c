import { extractCycle } from '../stretch/cycle';
import { framesPerBeat, projectRateHz, tempoFromLength } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';

/** A part of a sound, in frames of the sound as it is then. */
export interface PartStep {
  readonly kind: 'part';
  readonly fromFrame: number;
  readonly toFrame: number;
  /** How many beats it is said to be: its tempo follows from that. null: its tempo is what it was, and its beats follow. */
  readonly beats: number | null;
  /** What rings on behind the end is let into the start, as if it had gone round before; else it is left away. */
  readonly wrapsTail: boolean;
}

/** Frames over which the ends of a part come up and go down, so that a cut within a wave does not click. */
const edgeFrames = 32;

/** Takes a part; what is before it and behind it is left away. With beats it is a loop of exactly that length. @throws {RangeError} for an empty part */
export function takePart(sound: BenchSound, { fromFrame, toFrame, beats, wrapsTail }: PartStep): BenchSound {
  const from = Math.max(0, Math.round(fromFrame)),
    to = Math.min(framesOf(sound), Math.round(toFrame));
  if (to - from < 2 * edgeFrames) throw new RangeError('The part is shorter than a hundredth of a second.');
  const channels = extractCycle(sound.channels, from, to - from, wrapsTail ? 'wrap' : 'cut').map((part) => {
      for (let i = 0; i < edgeFrames; i++) {
        if (from > 0) part[i] *= i / edgeFrames;
        // Where its tail goes round the end joins the start by itself.
        if (to < framesOf(sound) && !wrapsTail) part[part.length - 1 - i] *= i / edgeFrames;
      }
      return part;
    }),
    seconds = (to - from) / projectRateHz,
    tempoBpm = beats === null ? sound.tempoBpm : tempoFromLength(beats, seconds),
    own = sound.tempoBpm === null ? null : (to - from) / framesPerBeat(sound.tempoBpm, projectRateHz);
  return {
    ...sound,
    channels,
    tempoBpm,
    beats: beats ?? (own === null ? null : Math.abs(own - Math.round(own)) < 0.02 ? Math.round(own) : own),
    // What is taken begins where one says that its music begins; of what is so many beats the end joins the start.
    startFrame: 0,
    isCycle: beats !== null,
    onsetFrames: sound.onsetFrames.filter((frame) => frame >= from - edgeFrames && frame < to).map((frame) => Math.max(0, frame - from)),
  };
}

/** The nearest place at or around a frame at which the sum of the channels crosses zero; the frame itself where there is none within reach. */
export function zeroCrossingNear(channels: readonly Float32Array[], frame: number, reachFrames = 441): number {
  const at = (i: number) => channels.reduce((sum, plane) => sum + (plane[i] ?? 0), 0),
    last = (channels[0]?.length ?? 0) - 1;
  for (let away = 0; away <= reachFrames; away++)
    for (const i of [frame - away, frame + away])
      if (i > 0 && i <= last && Math.sign(at(i - 1)) !== Math.sign(at(i))) return Math.abs(at(i - 1)) < Math.abs(at(i)) ? i - 1 : i;
  return frame;
}
