/** What is shown of a sound, in frames. */
export interface View {
  readonly fromFrame: number;
  readonly toFrame: number;
}

const leastFrames = 64;

/** Within the sound, and not nearer than to its samples. */
export function fitted(view: View, totalFrames: number): View {
  const length = Math.max(Math.min(leastFrames, totalFrames), Math.min(totalFrames, view.toFrame - view.fromFrame)),
    fromFrame = Math.max(0, Math.min(totalFrames - length, view.fromFrame));
  return { fromFrame, toFrame: fromFrame + length };
}

/** Nearer by a factor, what is at a place staying there. @param at 0 at the left … 1 at the right */
export function zoomed({ fromFrame, toFrame }: View, factor: number, at: number, totalFrames: number): View {
  const length = (toFrame - fromFrame) / factor,
    middle = fromFrame + (toFrame - fromFrame) * at;
  return fitted({ fromFrame: middle - length * at, toFrame: middle + length * (1 - at) }, totalFrames);
}

/** Moved along by a share of what is shown. */
export const moved = ({ fromFrame, toFrame }: View, share: number, totalFrames: number): View => {
  const by = (toFrame - fromFrame) * share;
  return fitted({ fromFrame: fromFrame + by, toFrame: toFrame + by }, totalFrames);
};

/** To what a handle snaps. */
export type HandleSnap = 'bar' | 'beat' | 'hit' | 'zero' | 'off';

/** The nearest of some frames; the frame itself where there are none. */
export const nearest = (frame: number, lines: readonly number[]): number =>
  lines.reduce((best, line) => (Math.abs(line - frame) < Math.abs(best - frame) ? line : best), lines[0] ?? frame);
