import { useEffect, useRef, type RefObject } from 'react';
import { useFrame } from '~/audio/hooks';

type Paint = (width: number, height: number) => void;

/**
 * One observer for all canvases: it reports sizes when the browser knows them anyway, so that a list full of waveforms never
 * forces a layout while it scrolls. It also reports each canvas once when it appears, which is its first painting.
 */
const paints = new WeakMap<Element, Paint>();
let shared: ResizeObserver | null = null;
function observeSize(canvas: Element, paint: Paint): () => void {
  shared ??= new ResizeObserver((entries) => {
    for (const { target, contentRect } of entries) paints.get(target)?.(contentRect.width, contentRect.height);
  });
  paints.set(canvas, paint);
  shared.observe(canvas);
  return () => shared?.unobserve(canvas);
}

/** A canvas that is crisp on any pixel ratio and drawn again when its size, its inputs or the theme change. */
export function Canvas({
  draw,
  className,
  label,
}: {
  draw: (context: CanvasRenderingContext2D, width: number, height: number) => void;
  className?: string;
  label?: string;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    let size: readonly [number, number] = [0, 0];
    const paint: Paint = (width, height) => {
      size = [width, height];
      if (width === 0 || height === 0) return;
      const ratio = window.devicePixelRatio || 1,
        context = canvas.getContext('2d');
      canvas.width = Math.round(width * ratio);
      canvas.height = Math.round(height * ratio);
      if (!context) return;
      context.scale(ratio, ratio);
      draw(context, width, height);
    };
    const again = () => paint(...size);
    const leave = observeSize(canvas, paint);
    window.addEventListener('themechange', again);
    return () => {
      leave();
      window.removeEventListener('themechange', again);
    };
  }, [draw]);
  return (
    <canvas ref={ref} className={className} role={label ? 'img' : undefined} aria-label={label} aria-hidden={label ? undefined : true} />
  );
}

/** What a moving picture is drawn on, in CSS pixels; `fresh` when nothing that was drawn before is left. */
export interface LiveSurface {
  readonly context: CanvasRenderingContext2D;
  readonly width: number;
  readonly height: number;
  readonly fresh: boolean;
}

/**
 * Draws on a canvas in every frame of the screen, for what moves with the music. Moving an element instead, by its style, makes the browser
 * sort all layers of the page anew in every frame: five to nine milliseconds where a canvas takes a fraction of one.
 * @param draw may leave what it drew before as it is, unless the surface is fresh
 */
export function useLiveCanvas(draw: (surface: LiveSurface) => void): RefObject<HTMLCanvasElement | null> {
  const ref = useRef<HTMLCanvasElement>(null),
    surface = useRef<LiveSurface | null>(null);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    const measured = (width: number, height: number) => {
      const ratio = window.devicePixelRatio || 1,
        context = canvas.getContext('2d');
      canvas.width = Math.max(1, Math.round(width * ratio));
      canvas.height = Math.max(1, Math.round(height * ratio));
      context?.scale(ratio, ratio);
      surface.current = context && width > 0 && height > 0 ? { context, width, height, fresh: true } : null;
    };
    const again = () => {
      if (surface.current) measured(surface.current.width, surface.current.height);
    };
    const leave = observeSize(canvas, measured);
    window.addEventListener('themechange', again);
    return () => {
      leave();
      window.removeEventListener('themechange', again);
    };
  }, []);
  useFrame(() => {
    if (!surface.current) return;
    draw(surface.current);
    if (surface.current.fresh) surface.current = { ...surface.current, fresh: false };
  });
  return ref;
}
