import { max, scaleLinear } from 'd3';
import { brightnessStep, densitySteps, type ColourCell } from '~core/search/index/colour-cells';
import type { LoopQuery } from '~core/search/query';
import { chartHeight, Frame, type Change } from './frame';
import { useBrush } from './use-brush';

const width = 200,
  lowest = 1,
  highest = 8,
  columns = (highest - lowest) / brightnessStep,
  rows = densitySteps.length;

interface Cell {
  readonly column: number;
  readonly row: number;
}

const hz = (octaves: number): string => {
  const value = 50 * 2 ** octaves;
  return value >= 1000 ? `${(value / 1000).toFixed(value >= 10_000 ? 0 : 1)}k` : String(Math.round(value));
};

/** Dark to bright across, calm to busy upwards: a brush narrows to an area; arrows move it, shift and arrows widen it. */
export function ColourChart({ query, cells, onChange }: { query: LoopQuery; cells: readonly ColourCell[] | null; onChange: Change }) {
  const x = scaleLinear([0, columns], [0, width]),
    y = scaleLinear([0, rows], [chartHeight - 16, 0]),
    most = max(cells ?? [], ({ count }) => count) ?? 1,
    { brightness, density } = query.ranges;
  const cellAt = (event: React.PointerEvent): Cell => {
    const rect = event.currentTarget.getBoundingClientRect();
    return {
      column: clamp(Math.floor(((event.clientX - rect.left) / rect.width) * columns), columns - 1),
      row: clamp(Math.floor(y.invert(((event.clientY - rect.top) / rect.height) * chartHeight)), rows - 1),
    };
  };
  const { brush, listen, end } = useBrush<Cell>();
  const chosen: { from: Cell; to: Cell } | null =
    brush ??
    (brightness && density
      ? {
          from: {
            column: Math.round((brightness.from - lowest) / brightnessStep),
            row: densitySteps.findLastIndex((step) => step <= density.from + 1e-6),
          },
          to: {
            column: Math.round((brightness.to - lowest) / brightnessStep) - 1,
            row:
              density.to >= 90
                ? rows - 1
                : Math.max(
                    0,
                    densitySteps.findLastIndex((step) => step < density.to - 1e-6),
                  ),
          },
        }
      : null);
  const narrow = ({ from, to }: { from: Cell; to: Cell }, replace = false) => {
    const left = Math.min(from.column, to.column),
      right = Math.max(from.column, to.column) + 1,
      low = Math.min(from.row, to.row),
      high = Math.max(from.row, to.row) + 1;
    onChange(
      {
        ranges: {
          ...query.ranges,
          // The ends hold all that lies beyond them.
          brightness: {
            from: left === 0 ? 0 : lowest + left * brightnessStep,
            to: right === columns ? 10 : lowest + right * brightnessStep,
          },
          density: { from: densitySteps[low], to: high === rows ? 99 : densitySteps[high] },
        },
      },
      replace,
    );
  };
  const clear = () => {
    const { brightness: _, density: __, ...ranges } = query.ranges;
    onChange({ ranges });
  };
  const move = (event: React.KeyboardEvent) => {
    if (event.key === 'Delete' && chosen) return clear();
    const moves: Readonly<Record<string, Cell>> = {
        ArrowLeft: { column: -1, row: 0 },
        ArrowRight: { column: 1, row: 0 },
        ArrowUp: { column: 0, row: 1 },
        ArrowDown: { column: 0, row: -1 },
      },
      step = moves[event.key];
    if (!step) return;
    event.preventDefault();
    const now = chosen ?? { from: { column: 4, row: 3 }, to: { column: 6, row: 5 } },
      moved = (cell: Cell): Cell => ({ column: clamp(cell.column + step.column, columns - 1), row: clamp(cell.row + step.row, rows - 1) });
    narrow({ from: event.shiftKey ? now.from : moved(now.from), to: moved(now.to) }, true);
  };
  return (
    <Frame title="Colour" hint={chosen ? 'click to clear' : 'brush'}>
      <svg
        viewBox={`0 0 ${width} ${chartHeight}`}
        preserveAspectRatio="none"
        className="h-26 w-full cursor-crosshair touch-none select-none"
        role="application"
        tabIndex={0}
        aria-label={`Brightness against density; ${chosen && brightness && density ? `${hz(brightness.from)} to ${hz(brightness.to)} hertz, ${density.from} to ${density.to} hits a beat` : 'anything'}. Arrows move it, shift and arrows widen it, Delete takes it away`}
        onKeyDown={move}
        {...listen(cellAt)}
        onPointerUp={() =>
          end((brushed) => {
            const { from, to } = brushed;
            if (from.column === to.column && from.row === to.row && brightness) clear();
            else narrow(brushed);
          })
        }
      >
        {(cells ?? []).map(({ brightness: bright, density: dense, count }) => {
          const column = clamp(Math.round((bright - lowest) / brightnessStep), columns - 1),
            row = densitySteps.findLastIndex((step) => step <= dense);
          return (
            <rect
              key={`${bright} ${dense}`}
              x={x(column) + 0.5}
              y={y(row + 1) + 0.5}
              width={x(1) - 1}
              height={y(0) - y(1) - 1}
              fill="var(--wave-strong)"
              opacity={0.15 + 0.85 * Math.sqrt(count / most)}
            >
              <title>{`about ${hz(bright)} Hz, from ${dense} hits a beat: ${count}`}</title>
            </rect>
          );
        })}
        {chosen && (
          <rect
            x={x(Math.min(chosen.from.column, chosen.to.column))}
            width={x(Math.abs(chosen.from.column - chosen.to.column) + 1)}
            y={y(Math.max(chosen.from.row, chosen.to.row) + 1)}
            height={y(0) - y(Math.abs(chosen.from.row - chosen.to.row) + 1)}
            fill="var(--color-primary)"
            opacity={0.25}
            stroke="var(--color-primary)"
            vectorEffect="non-scaling-stroke"
          />
        )}
        <line x1={0} x2={width} y1={chartHeight - 16} y2={chartHeight - 16} stroke="var(--grid-strong)" vectorEffect="non-scaling-stroke" />
      </svg>
      <div className="quiet relative -mt-4 flex h-4 justify-between text-[0.79rem]" aria-hidden="true">
        <span>dark</span>
        <span>up: busier</span>
        <span>bright</span>
      </div>
    </Frame>
  );
}

const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value));
