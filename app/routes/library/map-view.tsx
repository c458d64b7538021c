import { useMemo, useRef, useState } from 'react';
import { max, scaleLinear } from 'd3';
import { inRoom } from '~contracts/room-address';
import type { LoopCard } from '~contracts/loop-card';
import { mapStepsPerOctave } from '~core/search/index/counts';
import { queryToParameters, type LoopQuery } from '~core/search/query';
import { useEngine } from '~/audio/hooks';
import { useBrush } from '~/ui/charts/use-brush';
import { usePlace } from '~/ui/place';
import { useProject } from '~/ui/project-store';
import { wholeLoops } from '~/ui/whole-loops';
import type { Found } from '~server/services/look-up.server';

const width = 1240,
  height = 350,
  margin = { left: 64, right: 16, top: 14, bottom: 40 },
  shifts = Array.from({ length: 12 }, (_, k) => k - 5),
  steps = 12;

interface Cell {
  /** Column: 0–11 for −5 … +6, 12 for what has no key. */
  readonly column: number;
  /** Row: 24ths of an octave of stretch. */
  readonly step: number;
}

const percent = (step: number): string => {
  const value = (2 ** (step / mapStepsPerOctave) - 1) * 100;
  return `${value < 0 ? '−' : value > 0 ? '+' : ''}${Math.abs(value).toFixed(0)} %`;
};
const columnName = (column: number): string =>
  column === 12 ? 'keeps its pitch' : column === 5 ? 'same key' : column > 5 ? `up ${column - 5}` : `down ${5 - column}`;

/**
 * The result around the project: across what its pitch has to move, upwards what its speed has to, half and double folded in. Many are shown as
 * density, few one by one. A brush narrows; arrows walk, and what lies there is heard.
 */
export function MapView({
  query,
  map,
  onChange,
}: {
  query: LoopQuery;
  map: Found['map'];
  onChange: (changes: Partial<LoopQuery>) => void;
}) {
  const project = useProject((state) => state.project),
    projectId = useProject((state) => state.id),
    engine = useEngine(),
    place = usePlace(),
    [at, setAt] = useState<Cell>({ column: 5, step: 0 }),
    [heard, setHeard] = useState<LoopCard | null>(null);
  const asked = useRef(0),
    { brush, listen, end } = useBrush<Cell>();
  const x = scaleLinear([0, 13], [margin.left, width - margin.right]),
    y = scaleLinear([steps + 0.5, -steps - 0.5], [margin.top, height - margin.bottom]);
  const cells = useMemo(
    () => new Map((map?.cells ?? []).map(({ shift, stretch, count }) => [`${shift === null ? 12 : shift + 5} ${stretch}`, count])),
    [map],
  );
  if (!project) return <p className="quiet p-5">The map has the project in its middle: bring one into the room.</p>;
  if (!map) return <p className="quiet p-5">The library is still being read; the map comes in a moment.</p>;
  const most = max(map.cells, ({ count }) => count) ?? 1,
    few = map.marks.length > 0;
  const cellAt = (event: React.PointerEvent): Cell => {
    const rect = event.currentTarget.getBoundingClientRect();
    // The drawing keeps its proportions inside its box.
    const scale = Math.min(rect.width / width, rect.height / height),
      left = (event.clientX - rect.left - (rect.width - width * scale) / 2) / scale,
      top = (event.clientY - rect.top - (rect.height - height * scale) / 2) / scale;
    return {
      column: Math.max(0, Math.min(12, Math.floor(x.invert(left)))),
      step: Math.max(-steps, Math.min(steps, Math.round(y.invert(top)))),
    };
  };
  const rangesOf = (from: Cell, to: Cell): Partial<LoopQuery> => {
    const columns = [from.column, to.column].sort((a, b) => a - b),
      rows = [from.step, to.step].sort((a, b) => a - b),
      half = 0.5 / mapStepsPerOctave,
      stretch = { from: rounded(rows[0] / mapStepsPerOctave - half), to: rounded(rows[1] / mapStepsPerOctave + half) };
    // What has no key has a column of its own, which a brush over keys leaves out.
    if (columns[0] === 12) return { ranges: { ...without(query.ranges), stretch }, chosen: { ...query.chosen, key: ['un'] } };
    return {
      ranges: { ...query.ranges, stretch, shift: { from: rounded(columns[0] - 5.4), to: rounded(Math.min(11, columns[1]) - 4.6) } },
    };
  };
  const hear = async (cell: Cell) => {
    const turn = ++asked.current;
    if (!cells.get(`${cell.column} ${cell.step}`)) return setHeard(null);
    const narrowed = { ...query, ...rangesOf(cell, cell), sort: 'fit' as const, descending: true },
      response = await fetch(inRoom(`/api/v1/loops?${new URLSearchParams(queryToParameters(narrowed))}&limit=1`, projectId)).catch(
        () => null,
      );
    if (!response?.ok || turn !== asked.current) return;
    const [row] = ((await response.json()) as Found).rows;
    setHeard(row ?? null);
    const whole = row && (await wholeLoops().of(row));
    if (whole && turn === asked.current) void engine.audition.start(whole);
  };
  const walk = (event: React.KeyboardEvent) => {
    const moves: Readonly<Record<string, readonly [number, number]>> = {
        ArrowLeft: [-1, 0],
        ArrowRight: [1, 0],
        ArrowUp: [0, 1],
        ArrowDown: [0, -1],
      },
      move = moves[event.key];
    if (event.key === 'Enter' && heard) {
      event.preventDefault();
      void wholeLoops()
        .of(heard)
        .then((whole) => whole && place({ row: whole }));
      return;
    }
    if (event.key === 'b' || event.key === 'n') {
      event.preventDefault();
      event.stopPropagation();
      return onChange(rangesOf(at, at));
    }
    if (!move) return;
    event.preventDefault();
    // To the next cell with something in it, in that direction.
    let next = at;
    for (let k = 0; k < 30; k++) {
      next = { column: Math.max(0, Math.min(12, next.column + move[0])), step: Math.max(-steps, Math.min(steps, next.step + move[1])) };
      if (cells.get(`${next.column} ${next.step}`)) break;
    }
    if (!cells.get(`${next.column} ${next.step}`)) return;
    setAt(next);
    void hear(next);
  };
  const brushed = brush && {
    left: Math.min(brush.from.column, brush.to.column),
    right: Math.max(brush.from.column, brush.to.column) + 1,
    top: Math.max(brush.from.step, brush.to.step) + 0.5,
    bottom: Math.min(brush.from.step, brush.to.step) - 0.5,
  };
  return (
    <section aria-label="Map" className="flex min-h-0 flex-1 flex-col px-3 py-2">
      <p className="quiet mb-2">
        {heard ? (
          <>
            <strong className="text-base-content">{heard.title}</strong> · {columnName(at.column)}, {percent(at.step)} · Enter places it.
          </>
        ) : (
          'Arrows walk and let it be heard, N narrows to where one is, a drag narrows to an area.'
        )}
        {map.outside > 0 && ` ${map.outside.toLocaleString('en')} without a tempo have no place here.`}
      </p>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="min-h-0 w-full flex-1 cursor-crosshair touch-none select-none"
        role="application"
        tabIndex={0}
        aria-label={`Map of the result. Here: ${columnName(at.column)}, ${percent(at.step)}, ${cells.get(`${at.column} ${at.step}`) ?? 0} loops`}
        onKeyDown={walk}
        {...listen(cellAt)}
        onPointerUp={() =>
          end(({ from, to }) => {
            if (from.column !== to.column || from.step !== to.step) return onChange(rangesOf(from, to));
            setAt(from);
            void hear(from);
          })
        }
      >
        <rect x={x(0)} y={y(steps + 0.5)} width={x(13) - x(0)} height={y(-steps - 0.5) - y(steps + 0.5)} fill="none" stroke="var(--grid)" />
        {map.cells.map(({ shift, stretch, count }) => {
          const column = shift === null ? 12 : shift + 5;
          return (
            <rect
              key={`${column} ${stretch}`}
              x={x(column) + 1}
              y={y(stretch + 0.5) + 0.5}
              width={x(1) - x(0) - 2}
              height={y(0) - y(1) - 1}
              fill="var(--wave-strong)"
              opacity={few ? 0.12 : 0.12 + 0.88 * Math.sqrt(count / most)}
            >
              <title>{`${columnName(column)}, ${percent(stretch)}: ${count}`}</title>
            </rect>
          );
        })}
        {few &&
          map.marks.map(({ id, shift, stretch }, k) => (
            <circle
              key={id}
              cx={x(shift === null ? 12.5 : shift + 5.5) + (((k * 37) % 21) - 10) * 3.4}
              cy={y(Math.max(-steps, Math.min(steps, stretch * mapStepsPerOctave)))}
              r={4}
              fill={heard?.id === id ? 'var(--color-primary)' : 'var(--color-base-100)'}
              stroke="var(--color-primary)"
              strokeWidth={1.5}
            />
          ))}
        <line x1={x(0)} x2={x(13)} y1={y(0)} y2={y(0)} stroke="var(--color-primary)" strokeDasharray="2 4" />
        <rect
          x={x(5)}
          y={y(steps + 0.5)}
          width={x(1) - x(0)}
          height={y(-steps - 0.5) - y(steps + 0.5)}
          fill="none"
          stroke="var(--color-primary)"
          strokeDasharray="2 4"
        />
        <rect
          x={x(at.column)}
          y={y(at.step + 0.5)}
          width={x(1) - x(0)}
          height={y(0) - y(1)}
          fill="none"
          stroke="var(--color-base-content)"
          strokeWidth={2}
        />
        {brushed && (
          <rect
            x={x(brushed.left)}
            y={y(brushed.top)}
            width={x(brushed.right) - x(brushed.left)}
            height={y(brushed.bottom) - y(brushed.top)}
            fill="var(--color-primary)"
            opacity={0.2}
          />
        )}
        {[...shifts.map((shift) => shift + 5), 12].map((column) => (
          <text
            key={column}
            x={x(column + 0.5)}
            y={height - margin.bottom + 16}
            textAnchor="middle"
            fontSize={13}
            fill="var(--color-base-content)"
          >
            {column === 12 ? 'no pitch' : column === 5 ? 'same' : column > 5 ? `up ${column - 5}` : `down ${5 - column}`}
          </text>
        ))}
        {[-12, -6, 0, 6, 12].map((step) => (
          <text key={step} x={margin.left - 8} y={y(step) + 4} textAnchor="end" fontSize={13} fill="var(--color-base-content)">
            {step === 0 ? `${Math.round(project.tempoBpm)}` : percent(step)}
          </text>
        ))}
      </svg>
    </section>
  );
}

const rounded = (value: number): number => Math.round(value * 10_000) / 10_000;
const without = ({ shift: _, ...ranges }: LoopQuery['ranges']): LoopQuery['ranges'] => ranges;
