import { framesPerBeat, projectRateHz } from '../units/time';
import type { BenchSetting } from './bench-sound';
import { sliceEdges } from './slices';
import type { Step } from './steps';

/** In how many loops something comes off the bench. */
export type Several = 'one' | 'layers' | 'slices' | 'bars';

/** A loop of several: what is added to its name, and the steps that make it. */
export interface OneOf {
  readonly suffix: string;
  readonly steps: readonly Step[];
}

const shortestFrames = 500;

/**
 * The steps of each of several loops that come of what is on the bench: each layer by itself, each slice, each so many bars.
 * @param made what all steps come to @param bars of each where it is cut by bars
 */
export function severalOf(steps: readonly Step[], made: BenchSetting & { readonly frames: number }, how: Several, bars = 1): OneOf[] {
  const last = steps.at(-1);
  if (how === 'layers' && last?.kind === 'layers')
    return last.layers.map((layer, k) => ({ suffix: String(k + 1), steps: [...steps.slice(0, -1), { kind: 'layers', layers: [layer] }] }));
  const part = (fromFrame: number, toFrame: number, beats: number | null, k: number): OneOf => ({
    suffix: String(k + 1).padStart(2, '0'),
    steps: [...steps, { kind: 'part', fromFrame, toFrame, beats, wrapsTail: false }],
  });
  if (how === 'slices')
    return sliceEdges(made, made.frames)
      .filter(({ fromFrame, toFrame }) => toFrame - fromFrame >= shortestFrames)
      .map(({ fromFrame, toFrame }, k) => part(fromFrame, toFrame, null, k));
  if (how === 'bars' && made.tempoBpm) {
    const frames = framesPerBeat(made.tempoBpm, projectRateHz) * made.barBeats * bars,
      count = Math.max(1, Math.floor((made.frames - made.startFrame) / frames + 0.01));
    return Array.from({ length: count }, (_, k) =>
      part(
        Math.round(made.startFrame + k * frames),
        Math.min(made.frames, Math.round(made.startFrame + (k + 1) * frames)),
        made.barBeats * bars,
        k,
      ),
    );
  }
  return [{ suffix: '', steps }];
}
