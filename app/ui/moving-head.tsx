import { useRef } from 'react';
import { useEngine, useFrame } from '~/audio/hooks';
import { courseMs, isOnCourse, type Course } from './head-course';
import { useProject } from './project-store';

/**
 * The playhead over beats of the project. The browser moves it by itself, beside the page's work, and is told only where the music goes another
 * way: put anew with every frame it made all beneath be painted anew, a third of a processor where no graphics processor helps.
 * @param at the beat where it stands; null for none
 */
export function MovingHead({
  at,
  beatPixels,
  offsetPixels = 0,
  className,
}: {
  at: () => number | null;
  beatPixels: number;
  offsetPixels?: number;
  className: string;
}) {
  const engine = useEngine(),
    tempoBpm = useProject(({ project }) => project?.tempoBpm ?? 0),
    line = useRef<HTMLDivElement>(null),
    course = useRef<Course>({ x: null, pixelsAMs: 0, fromMs: 0 }),
    moving = useRef<Animation | null>(null);
  useFrame(() => {
    const beat = at(),
      // While it is counted in before the first bar, the music plays and the line waits.
      isMoving = beat !== null && engine.store.getState().playing && engine.positionBeat() > 0,
      next: Course = {
        x: beat === null ? null : offsetPixels + beat * beatPixels,
        pixelsAMs: isMoving ? (beatPixels * tempoBpm) / 60_000 : 0,
        fromMs: performance.now(),
      },
      { x, pixelsAMs } = next;
    if (!line.current || isOnCourse(course.current, next)) return;
    course.current = next;
    moving.current?.cancel();
    moving.current = null;
    line.current.style.visibility = x === null ? 'hidden' : 'visible';
    if (x === null) return;
    line.current.style.transform = `translateX(${x}px)`;
    if (isMoving)
      moving.current = line.current.animate(
        [x, x + pixelsAMs * courseMs].map((place) => ({ transform: `translateX(${place}px)` })),
        courseMs,
      );
  });
  return (
    <div
      ref={line}
      data-playhead
      className={`pointer-events-none invisible absolute inset-y-0 left-0 bg-primary will-change-transform ${className}`}
    />
  );
}
