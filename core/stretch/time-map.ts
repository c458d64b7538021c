import { assertPositive } from '../units/assert';

/**
 * Where each moment of a cycle goes when it is fitted, both ways. Both sides are cyclic: a cycle further on the one side is a cycle further on the
 * other. Frames need not be whole.
 */
export interface TimeMap {
  readonly sourceFrames: number;
  readonly targetFrames: number;
  toSource(targetFrame: number): number;
  toTarget(sourceFrame: number): number;
}

/** Everything by the same factor. */
export function straightMap(sourceFrames: number, targetFrames: number): TimeMap {
  assertPositive('sourceFrames', sourceFrames);
  assertPositive('targetFrames', targetFrames);
  const ratio = targetFrames / sourceFrames;
  return { sourceFrames, targetFrames, toSource: (frame) => frame / ratio, toTarget: (frame) => frame * ratio };
}

/**
 * A player's own time onto an even grid: straight between the marks.
 * @param markFrames frame of the cycle at which each of the grid's equal steps was played, ascending; the first may lie a little off 0
 * @throws {RangeError} when the marks do not ascend or span more than a cycle
 */
export function bentMap(sourceFrames: number, targetFrames: number, markFrames: readonly number[]): TimeMap {
  assertPositive('sourceFrames', sourceFrames);
  assertPositive('targetFrames', targetFrames);
  const count = markFrames.length;
  if (count < 2) return straightMap(sourceFrames, targetFrames);
  const marks = [...markFrames, markFrames[0] + sourceFrames];
  for (let k = 0; k < count; k++)
    if (!(marks[k + 1] > marks[k])) throw new RangeError(`marks of time must ascend: ${marks[k]} is followed by ${marks[k + 1]}`);
  const step = targetFrames / count;
  const toTarget = (frame: number): number => {
    const cycle = Math.floor((frame - marks[0]) / sourceFrames),
      within = frame - cycle * sourceFrames;
    let low = 0,
      high = count;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (marks[middle] <= within) low = middle;
      else high = middle;
    }
    return cycle * targetFrames + (low + (within - marks[low]) / (marks[low + 1] - marks[low])) * step;
  };
  const toSource = (frame: number): number => {
    const cycle = Math.floor(frame / targetFrames),
      at = (frame - cycle * targetFrames) / step,
      k = Math.min(count - 1, Math.floor(at));
    return cycle * sourceFrames + marks[k] + (at - k) * (marks[k + 1] - marks[k]);
  };
  return { sourceFrames, targetFrames, toSource, toTarget };
}
