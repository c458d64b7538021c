import { createStore } from 'zustand/vanilla';
import { grids, type Grid } from '~core/arrangement/grid';
import { headWidth, leastBarPixels, mostBarPixels, type TrackSize } from './measures';

/** The part of the timeline that is drawn, in its own pixels: what is seen and some around it. */
export interface Drawn {
  readonly fromX: number;
  readonly toX: number;
  readonly fromY: number;
  readonly toY: number;
}

/** How one looks at a timeline: kept by this browser, no part of the project. */
interface Kept {
  readonly barPixels: number;
  readonly grid: Grid;
  readonly follows: boolean;
  /** Tracks drawn small. */
  readonly small: readonly string[];
}
export interface Look extends Kept {
  readonly drawn: Drawn;
}

/** Steps in which the drawn part moves along, so that scrolling seldom draws anew. */
const stepX = 256,
  stepY = 132;

const asBegun: Look = {
  barPixels: 56,
  grid: 'bar',
  follows: true,
  small: [],
  drawn: { fromX: 0, toX: 2048, fromY: 0, toY: 1024 },
};

/** What a drawn part is where so much of a timeline is seen. */
export function drawnAround(left: number, top: number, width: number, height: number): Drawn {
  const down = (value: number, step: number) => Math.max(0, Math.floor(value / step - 1) * step),
    up = (value: number, step: number) => Math.ceil(value / step + 1) * step;
  return { fromX: down(left, stepX), toX: up(left + width, stepX), fromY: down(top, stepY), toY: up(top + height, stepY) };
}

/** Zoom, grid, following and the part that is drawn, of one project's timeline. */
export class TimelineView {
  readonly store = createStore<Look>(() => asBegun);
  private node: HTMLElement | null = null;
  private barBeats = 4;
  private scrollTo: number | null = null;
  /** What is seen of it, as the browser told last: to ask for it would force a layout. */
  private seen = { left: 0, top: 0, width: 0, height: 0, atX: 0 };

  constructor(private readonly projectId: number) {}

  /** What this browser kept of it. */
  recall(): void {
    try {
      const { barPixels, grid, follows, small } = JSON.parse(localStorage.getItem(`timeline-${this.projectId}`) ?? '{}') as Partial<Kept>;
      this.store.setState({
        ...(typeof barPixels === 'number' ? { barPixels: this.within(barPixels) } : {}),
        ...(grid && grids.includes(grid) ? { grid } : {}),
        ...(typeof follows === 'boolean' ? { follows } : {}),
        ...(Array.isArray(small) ? { small } : {}),
      });
    } catch {
      // What cannot be read is begun anew.
    }
  }

  set(changes: Partial<Kept>): void {
    this.store.setState(changes);
    const { barPixels, grid, follows, small } = this.store.getState();
    localStorage.setItem(`timeline-${this.projectId}`, JSON.stringify({ barPixels, grid, follows, small }));
  }

  /** Knows what scrolls. @returns what lets go of it */
  attach(node: HTMLElement): () => void {
    this.node = node;
    const look = () => {
        this.seen = { ...this.seen, left: node.scrollLeft, top: node.scrollTop };
        this.look();
      },
      measure = () => {
        this.seen = {
          ...this.seen,
          width: node.clientWidth - headWidth,
          height: node.clientHeight,
          atX: node.getBoundingClientRect().left,
        };
        look();
      },
      onWheel = (event: WheelEvent) => {
        // A pinch is a wheel with Ctrl too; it must not zoom the page.
        if (!event.ctrlKey && !event.metaKey) return;
        event.preventDefault();
        this.zoomBy(Math.exp(-event.deltaY / 300), event.clientX);
      },
      observer = new ResizeObserver(measure);
    observer.observe(node);
    node.addEventListener('scroll', look, { passive: true });
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      observer.disconnect();
      node.removeEventListener('scroll', look);
      node.removeEventListener('wheel', onWheel);
      this.node = null;
    };
  }

  /** The bars of its meter are so long. */
  measureBy(barBeats: number): void {
    this.barBeats = barBeats;
  }

  private look(): void {
    const { left, top, width, height } = this.seen,
      next = drawnAround(left, top, width, height),
      { drawn } = this.store.getState();
    if (drawn.fromX !== next.fromX || drawn.toX !== next.toX || drawn.fromY !== next.fromY || drawn.toY !== next.toY)
      this.store.setState({ drawn: next });
  }

  private within = (pixels: number): number => Math.min(mostBarPixels, Math.max(leastBarPixels, pixels));

  /** @param atX of the window, which stays where it is; left out: the middle */
  zoomBy(factor: number, atX?: number): void {
    if (!this.node) return;
    const { barPixels } = this.store.getState(),
      next = this.within(barPixels * factor),
      left = this.seen.atX + headWidth,
      inView = (atX ?? left + this.seen.width / 2) - left;
    this.scrollTo = Math.max(0, ((this.seen.left + inView) * next) / barPixels - inView);
    this.set({ barPixels: next });
  }

  /** Shows a stretch of beats as large as it goes. */
  zoomTo(fromBeat: number, toBeat: number): void {
    if (!this.node || !(toBeat > fromBeat)) return;
    const next = this.within(((this.seen.width - 24) * this.barBeats) / (toBeat - fromBeat));
    this.scrollTo = Math.max(0, (fromBeat / this.barBeats) * next - 12);
    this.set({ barPixels: next });
    this.settle();
  }

  /** A zoom keeps its place once the new width is there to be scrolled. */
  settle(): void {
    if (!this.node) return;
    if (this.scrollTo !== null) {
      this.node.scrollLeft = this.scrollTo;
      this.seen = { ...this.seen, left: this.scrollTo };
    }
    this.scrollTo = null;
    this.look();
  }

  /** Turns the page when a place leaves it. @param x in pixels of the timeline */
  keepInView(x: number): void {
    if (!this.node) return;
    const { left, width } = this.seen;
    if (width > 0 && (x < left || x > left + width - 16)) this.node.scrollLeft = Math.max(0, x - width * 0.1);
  }
}

export const sizeOf = ({ small }: Pick<Look, 'small'>, trackId: string): TrackSize => (small.includes(trackId) ? 'small' : 'large');
