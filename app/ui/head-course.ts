/** The line may be so far from where the music is before it is put right: the audio clock goes by steps of some milliseconds. */
const mostOffMs = 40,
  mostOffPixels = 1.5;
/** So far ahead a course leads; then it is set anew. */
export const courseMs = 60_000;

/** Where a playhead is at a moment, and how it moves on from there. `x` is null where it is not to be seen. */
export interface Course {
  readonly x: number | null;
  readonly pixelsAMs: number;
  readonly fromMs: number;
}

/** Whether a playhead that follows a course is where it shall be, moving as it shall, at a moment. */
export function isOnCourse(course: Course, { x, pixelsAMs, fromMs: nowMs }: Course): boolean {
  if (x === null || course.x === null) return x === course.x;
  if (pixelsAMs !== course.pixelsAMs) return false;
  if (pixelsAMs === 0) return x === course.x;
  const sinceMs = nowMs - course.fromMs;
  return sinceMs < courseMs && Math.abs(x - course.x - pixelsAMs * sinceMs) < Math.max(mostOffPixels, mostOffMs * pixelsAMs);
}
