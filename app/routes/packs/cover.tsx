import { useCallback } from 'react';
import type { Family } from '~core/theory/instruments';
import { Canvas } from '~/ui/canvas';
import { readToken } from '~/ui/theme';
import { decodeOverview } from '~/ui/waveform';

/** A cover drawn from the pack's own sound: its loops' waveforms as strata, in the colour of what it holds most of. */
export function Cover({ overviews, family, name }: { overviews: readonly string[]; family: Family; name: string }) {
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
  return <Canvas draw={draw} className="size-28 shrink-0 rounded-sm" label={`Cover of ${name}, drawn from its sound`} />;
}
