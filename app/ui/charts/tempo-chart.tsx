import { max, scaleLinear, scaleLog, sum } from 'd3';
import { useProject } from '~/ui/project-store';
import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { chartHeight, Frame, type Change } from './frame';
import { useBrush } from './use-brush';

const lowestBpm = 30,
  highestBpm = 300,
  binBpm = 4;

/** How many loops lie where the chart does not reach; empty for none. */
function outsideWords(counts: FacetCounts['tempo']): string {
  const slower = sum(counts, ({ value, count }) => (Number(value) < lowestBpm ? count : 0)),
    faster = sum(counts, ({ value, count }) => (Number(value) >= highestBpm ? count : 0));
  return [slower > 0 && `${slower} slower`, faster > 0 && `${faster} faster`].filter(Boolean).join(', ');
}

/** Tempo histogram. The project's tempo, its half and its double are marked. */
export function TempoChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['tempo']; onChange: Change }) {
  const tempoBpm = useProject((state) => state.project?.tempoBpm ?? null);
  const width = 360,
    // By ratio, so that half and double lie as far on either side.
    x = scaleLog([lowestBpm, highestBpm], [0, width]),
    y = scaleLinear([0, max(counts, (each) => each.count) ?? 1], [0, chartHeight - 30]);
  const bpmAt = ({ clientX, currentTarget }: React.PointerEvent) => {
    const rect = currentTarget.getBoundingClientRect();
    return Math.round(Math.max(lowestBpm, Math.min(highestBpm, x.invert(((clientX - rect.left) / rect.width) * width))));
  };
  const { brush, listen, end } = useBrush<number>();
  const shown = brush ? { fromBpm: Math.min(brush.from, brush.to), toBpm: Math.max(brush.from, brush.to) } : query.tempo;
  const marks =
    tempoBpm === null ? [] : [tempoBpm / 2, tempoBpm, tempoBpm * 2].filter((value) => value >= lowestBpm && value <= highestBpm);
  const nudge = (event: React.KeyboardEvent) => {
    const step = event.key === 'ArrowRight' ? binBpm : event.key === 'ArrowLeft' ? -binBpm : 0;
    if (!step) return;
    event.preventDefault();
    const base = query.tempo ?? { fromBpm: Math.round((tempoBpm ?? 120) - 8), toBpm: Math.round((tempoBpm ?? 120) + 8) };
    onChange(
      {
        tempo: event.shiftKey
          ? { ...base, toBpm: Math.max(base.fromBpm + binBpm, base.toBpm + step) }
          : { fromBpm: base.fromBpm + step, toBpm: base.toBpm + step },
      },
      true,
    );
  };
  return (
    <Frame title="Tempo" hint={shown ? `${shown.fromBpm}–${shown.toBpm}` : outsideWords(counts) || 'drag a range'}>
      <svg
        viewBox={`0 0 ${width} ${chartHeight}`}
        preserveAspectRatio="none"
        className="h-26 w-full cursor-crosshair touch-none select-none"
        role="slider"
        tabIndex={0}
        aria-label="Tempo range; arrows move it, shift and arrows widen it"
        aria-valuemin={lowestBpm}
        aria-valuemax={highestBpm}
        aria-valuenow={shown?.fromBpm ?? lowestBpm}
        aria-valuetext={shown ? `${shown.fromBpm} to ${shown.toBpm}` : 'any tempo'}
        onKeyDown={nudge}
        {...listen(bpmAt)}
        onPointerUp={() =>
          end(({ from, to }) =>
            onChange({ tempo: Math.abs(to - from) >= 2 ? { fromBpm: Math.min(from, to), toBpm: Math.max(from, to) } : null }),
          )
        }
      >
        {shown && (
          <rect
            x={x(shown.fromBpm)}
            width={Math.max(2, x(shown.toBpm) - x(shown.fromBpm))}
            y={0}
            height={chartHeight - 16}
            fill="var(--color-primary)"
            opacity={0.16}
          />
        )}
        {marks.map((value) => (
          <line
            key={value}
            x1={x(value)}
            x2={x(value)}
            y1={0}
            y2={chartHeight - 16}
            stroke="var(--color-primary)"
            strokeWidth={value === tempoBpm ? 1.5 : 1}
            strokeDasharray={value === tempoBpm ? undefined : '3 3'}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {counts.map(({ value, count }) => {
          const bpm = Number(value),
            inside = !shown || (bpm + binBpm > shown.fromBpm && bpm < shown.toBpm);
          return bpm >= lowestBpm && bpm < highestBpm ? (
            <rect
              key={value}
              x={x(bpm) + 0.8}
              width={x(bpm + binBpm) - x(bpm) - 1.6}
              y={chartHeight - 16 - y(count)}
              height={y(count)}
              fill={inside ? 'var(--wave-strong)' : 'var(--wave-faint)'}
            >
              <title>{`${bpm}–${bpm + binBpm}: ${count}`}</title>
            </rect>
          ) : null;
        })}
        <line x1={0} x2={width} y1={chartHeight - 16} y2={chartHeight - 16} stroke="var(--grid-strong)" vectorEffect="non-scaling-stroke" />
      </svg>
      <div className="relative -mt-4 h-4 text-[0.79rem]" aria-hidden="true">
        {[40, 60, 80, 100, 120, 160, 200, 260].map((bpm) => (
          <span key={bpm} className="quiet absolute -translate-x-1/2" style={{ left: `${(x(bpm) / width) * 100}%` }}>
            {bpm}
          </span>
        ))}
      </div>
    </Frame>
  );
}
