import { writeSmf } from '../formats/smf/write';
import { framesPerBeat, projectRateHz } from '../units/time';
import { framesOf, type BenchSetting, type BenchSound } from './bench-sound';

/** A slice on a step of the grid. */
export interface SliceHit {
  readonly step: number;
  /** Which slice, from 0. */
  readonly slice: number;
  /** 0–1. */
  readonly velocity: number;
  readonly reverse: boolean;
}

/** Slices of a sound, played anew on a grid of steps. */
export interface SlicesStep {
  readonly kind: 'slices';
  readonly stepsPerBeat: number;
  readonly hits: readonly SliceHit[];
}

/** A slice, in frames. */
export interface Slice {
  readonly fromFrame: number;
  readonly toFrame: number;
}

const leadFrames = 44,
  releaseFrames = 220;

/** A sound of so many frames cut at its hits; a start that is no hit of its own is the first slice. */
export function sliceEdges({ onsetFrames }: Pick<BenchSetting, 'onsetFrames'>, total: number): Slice[] {
  const starts = [...new Set(onsetFrames.map((frame) => Math.max(0, Math.round(frame) - leadFrames)))]
    .filter((frame) => frame < total - leadFrames)
    .sort((a, b) => a - b);
  if (starts.length === 0 || starts[0] > 2 * leadFrames) starts.unshift(0);
  return starts.map((fromFrame, k) => ({ fromFrame, toFrame: starts[k + 1] ?? total }));
}

/** The slices of a sound. */
export const slicesOf = (sound: Pick<BenchSound, 'channels' | 'onsetFrames'>): Slice[] => sliceEdges(sound, framesOf(sound));

/** The first slice is the C two octaves below the middle one: each one a key. */
const firstSlicePitch = 36;

/** A pattern as a Standard MIDI File: slice by slice a key higher, backwards ones as they are. */
export function writeSlicePattern({ stepsPerBeat, hits }: SlicesStep, { tempoBpm, beats }: BenchSetting, name: string): Uint8Array {
  const length = beats ?? (hits.reduce((last, { step }) => Math.max(last, step), 0) + 1) / stepsPerBeat;
  return writeSmf({
    name: name.replaceAll(/[^ -~]/g, '?').slice(0, 100),
    tempoBpm: tempoBpm ?? undefined,
    lengthBeats: length,
    notes: hits
      .filter(({ step, slice }) => step / stepsPerBeat < length && firstSlicePitch + slice <= 127)
      .map(({ step, slice, velocity }) => ({
        startBeat: step / stepsPerBeat,
        lengthBeats: 1 / stepsPerBeat,
        pitch: firstSlicePitch + slice,
        velocity: Math.max(1, Math.round(127 * velocity)),
        channel: 0,
      })),
  });
}

/** The pattern that plays the slices as they came: each on the step that is nearest to it; of several on one step that in which most is heard. */
export function patternAsPlayed(sound: BenchSound, stepsPerBeat: number): SliceHit[] {
  const step = stepFramesOf(sound, stepsPerBeat),
    taken = new Set<number>();
  return slicesOf(sound)
    .map(({ fromFrame, toFrame }, slice) => ({
      slice,
      energy: sound.channels.reduce(
        (sum, plane) => sum + plane.subarray(fromFrame, toFrame).reduce((energy, value) => energy + value * value, 0),
        0,
      ),
      at: Math.max(0, Math.round((fromFrame + (fromFrame === 0 ? 0 : leadFrames) - sound.startFrame) / step)),
    }))
    .sort((a, b) => b.energy - a.energy)
    .flatMap(({ slice, at }) => {
      if (taken.has(at)) return [];
      taken.add(at);
      return [{ step: at, slice, velocity: 1, reverse: false }];
    })
    .sort((a, b) => a.step - b.step);
}

const stepFramesOf = ({ tempoBpm }: BenchSound, stepsPerBeat: number): number =>
  framesPerBeat(tempoBpm ?? 120, projectRateHz) / stepsPerBeat;

/**
 * Plays slices on steps. Each sounds until it ends, or the next one begins, as on an instrument with one voice. What reaches past the end of a loop
 * comes in at its start.
 */
export function playSlices(sound: BenchSound, { stepsPerBeat, hits }: SlicesStep): BenchSound {
  const total = framesOf(sound),
    slices = slicesOf(sound),
    step = stepFramesOf(sound, stepsPerBeat),
    out = sound.channels.map((plane) => new Float32Array(plane.length)),
    inOrder = [...hits].filter(({ slice, step: at }) => slices[slice] && at >= 0 && at * step < total).sort((a, b) => a.step - b.step),
    placeOf = ({ step: at }: SliceHit) => Math.round(sound.startFrame + at * step);
  for (const [k, hit] of inOrder.entries()) {
    const { fromFrame, toFrame } = slices[hit.slice],
      place = placeOf(hit) - (fromFrame === 0 ? 0 : leadFrames),
      next = inOrder[k + 1],
      until = next ? placeOf(next) : placeOf(inOrder[0]) + total,
      length = Math.min(toFrame - fromFrame, until - place);
    for (const [channel, plane] of sound.channels.entries())
      for (let i = 0; i < length; i++) {
        const at = place + i;
        if (at < 0 || (at >= total && !sound.isCycle)) continue;
        const edge = Math.min(1, (i + 1) / (fromFrame === 0 && !hit.reverse ? 1 : leadFrames), (length - i) / releaseFrames),
          from = hit.reverse ? toFrame - 1 - i : fromFrame + i;
        out[channel][at % total] += plane[from] * hit.velocity * edge;
      }
  }
  return { ...sound, channels: out, onsetFrames: inOrder.map(placeOf).filter((frame) => frame < total) };
}
