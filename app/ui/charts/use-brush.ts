import { useState } from 'react';

export interface Brush<Place> {
  readonly from: Place;
  readonly to: Place;
}
type Listeners = Required<Pick<React.SVGProps<SVGSVGElement>, 'onPointerDown' | 'onPointerMove' | 'onPointerCancel'>>;

/** A drag from one place of a chart to another: what is brushed meanwhile, what the chart's element listens with, and what ends it. */
export function useBrush<Place>() {
  const [brush, setBrush] = useState<Brush<Place> | null>(null);
  const listen = (placeAt: (event: React.PointerEvent) => Place): Listeners => ({
    onPointerDown: (event) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      const place = placeAt(event);
      setBrush({ from: place, to: place });
    },
    onPointerMove: (event) => brush && setBrush({ ...brush, to: placeAt(event) }),
    onPointerCancel: () => setBrush(null),
  });
  const end = (onBrushed: (brush: Brush<Place>) => void) => {
    if (!brush) return;
    setBrush(null);
    onBrushed(brush);
  };
  return { brush, listen, end };
}
