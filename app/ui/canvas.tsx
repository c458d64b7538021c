import { useEffect, useRef } from 'react';

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
    const paint = () => {
      const { clientWidth: width, clientHeight: height } = canvas,
        ratio = window.devicePixelRatio || 1;
      if (width === 0 || height === 0) return;
      canvas.width = Math.round(width * ratio);
      canvas.height = Math.round(height * ratio);
      const context = canvas.getContext('2d');
      if (!context) return;
      context.scale(ratio, ratio);
      context.clearRect(0, 0, width, height);
      draw(context, width, height);
    };
    paint();
    const observer = new ResizeObserver(paint);
    observer.observe(canvas);
    window.addEventListener('themechange', paint);
    return () => {
      observer.disconnect();
      window.removeEventListener('themechange', paint);
    };
  }, [draw]);
  return (
    <canvas ref={ref} className={className} role={label ? 'img' : undefined} aria-label={label} aria-hidden={label ? undefined : true} />
  );
}
