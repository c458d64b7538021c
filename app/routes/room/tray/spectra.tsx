import { memo, useRef } from 'react';
import { useEngine } from '~/audio/hooks';
import { useLiveCanvas } from '~/ui/canvas';
import { readToken } from '~/ui/theme';

const bands = 24,
  lowestHz = 40,
  highestHz = 16000,
  floorDb = -84,
  topDb = -18,
  /** Twenty looks a second are enough for an ear to follow. */
  framesEach = 3;

/** Small spectra: the sounding mix as columns, the candidate as a line over them. Where the line fills a gap, there was room for it. */
export const Spectra = memo(function Spectra() {
  const engine = useEngine(),
    frame = useRef(0),
    planes = useRef<{ mix: Float32Array<ArrayBuffer>; candidate: Float32Array<ArrayBuffer> } | null>(null);
  const canvas = useLiveCanvas(({ context, width, height }) => {
    if (++frame.current % framesEach !== 0) return;
    planes.current ??= { mix: new Float32Array(1024), candidate: new Float32Array(1024) };
    const { mix, candidate } = planes.current;
    if (!engine.readSpectra(mix, candidate)) return;
    const level = (plane: Float32Array, band: number) => {
      const from = Math.max(1, Math.round(((lowestHz * (highestHz / lowestHz) ** (band / bands)) / 22050) * 1024)),
        to = Math.max(from + 1, Math.round(((lowestHz * (highestHz / lowestHz) ** ((band + 1) / bands)) / 22050) * 1024));
      let most = floorDb;
      for (let k = from; k < to && k < plane.length; k++) most = Math.max(most, plane[k]);
      return Math.min(1, Math.max(0, (most - floorDb) / (topDb - floorDb)));
    };
    context.clearRect(0, 0, width, height);
    context.fillStyle = readToken('--wave');
    for (let band = 0; band < bands; band++) {
      const tall = level(mix, band) * height;
      context.fillRect((band * width) / bands, height - tall, width / bands - 1, tall);
    }
    context.strokeStyle = readToken('--color-primary');
    context.lineWidth = 2;
    context.beginPath();
    for (let band = 0; band < bands; band++) {
      const y = height - level(candidate, band) * (height - 2) - 1;
      if (band === 0) context.moveTo(0, y);
      context.lineTo((band * width) / bands, y);
      context.lineTo(((band + 1) * width) / bands, y);
    }
    context.stroke();
  });
  return (
    <canvas
      ref={canvas}
      className="h-full w-26 shrink-0 rounded-sm border border-base-300 bg-base-100 max-xl:hidden"
      role="img"
      aria-label="Spectrum, low to high: the sounding mix as columns, the candidate as a line"
      title="Low to high: the mix as columns, the candidate as a line"
    />
  );
});
