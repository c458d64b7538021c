import { useRef } from 'react';
import { useEngine, useFrame } from '~/audio/hooks';
import { readToken } from '~/ui/theme';

const bands = 24,
  lowestHz = 40,
  highestHz = 16000,
  floorDb = -84,
  topDb = -18,
  /** Twenty looks a second are enough for an ear to follow. */
  framesEach = 3;

/** Small spectra: the sounding mix as columns, the candidate as a line over them. Where the line fills a gap, there was room for it. */
export function Spectra() {
  const engine = useEngine(),
    canvas = useRef<HTMLCanvasElement>(null),
    frame = useRef(0),
    planes = useRef<{ mix: Float32Array<ArrayBuffer>; candidate: Float32Array<ArrayBuffer> } | null>(null);
  useFrame(() => {
    const context = canvas.current?.getContext('2d'),
      { current: element } = canvas;
    if (!context || !element || ++frame.current % framesEach !== 0) return;
    planes.current ??= { mix: new Float32Array(1024), candidate: new Float32Array(1024) };
    if (!engine.readSpectra(planes.current.mix, planes.current.candidate)) return;
    const ratio = window.devicePixelRatio || 1;
    if (element.width !== Math.round(104 * ratio)) {
      element.width = Math.round(104 * ratio);
      element.height = Math.round(100 * ratio);
    }
    const { width, height } = element,
      level = (plane: Float32Array, band: number) => {
        const from = Math.max(1, Math.round(((lowestHz * (highestHz / lowestHz) ** (band / bands)) / 22050) * 1024)),
          to = Math.max(from + 1, Math.round(((lowestHz * (highestHz / lowestHz) ** ((band + 1) / bands)) / 22050) * 1024));
        let most = floorDb;
        for (let k = from; k < to && k < plane.length; k++) most = Math.max(most, plane[k]);
        return Math.min(1, Math.max(0, (most - floorDb) / (topDb - floorDb)));
      };
    context.clearRect(0, 0, width, height);
    context.fillStyle = readToken('--wave');
    for (let band = 0; band < bands; band++) {
      const tall = level(planes.current.mix, band) * height;
      context.fillRect((band * width) / bands, height - tall, width / bands - ratio, tall);
    }
    context.strokeStyle = readToken('--color-primary');
    context.lineWidth = 2 * ratio;
    context.beginPath();
    for (let band = 0; band < bands; band++) {
      const y = height - level(planes.current.candidate, band) * (height - 2 * ratio) - ratio;
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
}
