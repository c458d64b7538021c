import { useEffect, useRef } from 'react';

type Paint = (width: number, height: number) => void;

/**
 * One observer for all canvases: it reports sizes when the browser knows them anyway, so that a list full of waveforms never
 * forces a layout while it scrolls. It also reports each canvas once when it appears, which is its first painting.
 */
const paints = new WeakMap<Element, Paint>();
let shared: ResizeObserver | null = null;
function observer(): ResizeObserver {
  shared ??= new ResizeObserver((entries) => {
    for (const { target, contentRect } of entries) paints.get(target)?.(contentRect.width, contentRect.height);
  });
  return shared;
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
    paints.set(canvas, paint);
    observer().observe(canvas);
    window.addEventListener('themechange', again);
    return () => {
      observer().unobserve(canvas);
      window.removeEventListener('themechange', again);
    };
  }, [draw]);
  return (
    <canvas ref={ref} className={className} role={label ? 'img' : undefined} aria-label={label} aria-hidden={label ? undefined : true} />
  );
}
