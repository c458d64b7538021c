import { useCallback } from 'react';
import type { Family } from '~core/theory/instruments';
import { Canvas } from './canvas';
import { readToken } from './theme';
import { decodeOverview } from './waveform';

/** A pack's cover: its picture, or one drawn from its own sound: its loops' waveforms as strata, in the colour of what it holds most of. */
export function Cover({
  overviews,
  family,
  name,
  coverId,
  className = 'size-28',
}: {
  overviews: readonly string[];
  family: Family;
  name: string;
  /** A picture that came with it, or that somebody chose; null: none. */
  coverId: number | null;
  className?: string;
}) {
  return coverId === null ? (
    <DrawnCover overviews={overviews} family={family} name={name} className={className} />
  ) : (
    <img
      src={`/media/document/${coverId}`}
      alt={`Cover of ${name}`}
      className={`${className} shrink-0 rounded-sm object-cover`}
      loading="lazy"
    />
  );
}

function DrawnCover({
  overviews,
  family,
  name,
  className,
}: {
  overviews: readonly string[];
  family: Family;
  name: string;
  className: string;
}) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = readToken('--grid');
      context.fillRect(0, 0, width, height);
      const rows = overviews.map(decodeOverview),
        colour = readToken(`--family-${family}`);
      rows.forEach((row, index) => {
        const base = ((index + 1.1) / (rows.length + 0.4)) * height;
        context.globalAlpha = 0.35 + (0.6 * (index + 1)) / rows.length;
        context.fillStyle = colour;
        context.beginPath();
        context.moveTo(0, base);
        for (let i = 0; i < 60; i++) {
          let peak = 0;
          for (let k = i * 4; k < i * 4 + 4; k++) peak = Math.max(peak, row[k] ?? 0);
          context.lineTo((i / 59) * width, base - (peak / 255) ** 1.5 * height * 0.26);
        }
        context.lineTo(width, base);
        context.closePath();
        context.fill();
      });
      context.globalAlpha = 1;
    },
    [overviews, family],
  );
  return <Canvas draw={draw} className={`${className} shrink-0 rounded-sm`} label={`Cover of ${name}, drawn from its sound`} />;
}
