import { useState, type RefObject } from 'react';

/** A rubber band, in pixels of the window. */
interface Band {
  readonly fromX: number;
  readonly fromY: number;
  readonly toX: number;
  readonly toY: number;
}

/** A rubber band over the lanes: what it is drawn over is chosen, with Shift beside what was. */
export function useBand(scroller: RefObject<HTMLDivElement | null>, onChoose: (clipIds: string[], adds: boolean) => void) {
  const [band, setBand] = useState<Band | null>(null),
    isDrawn = band !== null && (Math.abs(band.toX - band.fromX) > 3 || Math.abs(band.toY - band.fromY) > 3);
  /** What lies under it, by where it is drawn. */
  const under = ({ fromX, fromY, toX, toY }: Band): string[] =>
    [...(scroller.current?.querySelectorAll<HTMLElement>('[data-clip]') ?? [])]
      .filter((element) => {
        const { left, right, top, bottom } = element.getBoundingClientRect();
        return left < Math.max(fromX, toX) && right > Math.min(fromX, toX) && top < Math.max(fromY, toY) && bottom > Math.min(fromY, toY);
      })
      .map((element) => element.dataset.clip ?? '');
  return {
    handlers: {
      onPointerDown: (event: React.PointerEvent) => {
        if (event.button !== 0 || !(event.target as HTMLElement).matches('[data-lane]')) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setBand({ fromX: event.clientX, fromY: event.clientY, toX: event.clientX, toY: event.clientY });
      },
      onPointerMove: (event: React.PointerEvent) => band && setBand({ ...band, toX: event.clientX, toY: event.clientY }),
      onPointerUp: (event: React.PointerEvent) => {
        if (!band) return;
        const found = under(band);
        setBand(null);
        onChoose(found, event.shiftKey);
      },
      onPointerCancel: () => setBand(null),
    },
    shown: isDrawn && (
      <div
        className="pointer-events-none fixed z-30 border border-primary bg-primary/15"
        style={{
          left: Math.min(band.fromX, band.toX),
          top: Math.min(band.fromY, band.toY),
          width: Math.abs(band.toX - band.fromX),
          height: Math.abs(band.toY - band.fromY),
        }}
        aria-hidden="true"
      />
    ),
  };
}
