import { useRef } from 'react';
import { useEngine, useFrame } from '~/audio/hooks';
import { useProject } from './project-store';

/** The line may be so far from where the music is before it is put right: the audio clock goes by steps of some milliseconds. */
const mostOffMs = 40,
  mostOffPixels = 1.5,
  aheadMs = 60_000;

/** Where the line is at a moment, and how it moves on from there. */
interface Course {
  readonly x: number;
  readonly pixelsAMs: number;
  readonly fromMs: number;
}

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
    course = useRef<Course>({ x: NaN, pixelsAMs: 0, fromMs: 0 }),
    moving = useRef<Animation | null>(null);
  useFrame(() => {
    const beat = at(),
      x = beat === null ? NaN : offsetPixels + beat * beatPixels,
      pixelsAMs = beat !== null && engine.store.getState().playing ? (beatPixels * tempoBpm) / 60_000 : 0,
      nowMs = performance.now(),
      { x: fromX, pixelsAMs: pace, fromMs } = course.current,
      isOnCourse =
        pace === 0
          ? Object.is(x, fromX)
          : nowMs - fromMs < aheadMs && Math.abs(x - fromX - pace * (nowMs - fromMs)) < Math.max(mostOffPixels, mostOffMs * pace);
    if (!line.current || (pixelsAMs === pace && isOnCourse)) return;
    course.current = { x, pixelsAMs, fromMs: nowMs };
    moving.current?.cancel();
    line.current.style.visibility = beat === null ? 'hidden' : 'visible';
    line.current.style.transform = `translateX(${beat === null ? 0 : x}px)`;
    moving.current =
      pixelsAMs === 0
        ? null
        : line.current.animate(
            [x, x + pixelsAMs * aheadMs].map((place) => ({ transform: `translateX(${place}px)` })),
            aheadMs,
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
