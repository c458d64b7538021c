import { useRef, useState, type ReactNode } from 'react';
import { arc, max, scaleBand, scaleLinear, sum } from 'd3';
import { keylessChoices } from '~core/analysis/attributes/key';
import { chosenOf, toggled, type LoopQuery } from '~core/search/query';
import { families, type Family } from '~core/theory/instruments';
import { fifthsPosition, keyCode, keyName, relativeKey, type Key } from '~core/theory/key';
import { useProject } from '~/ui/project-store';
import type { FacetCounts } from '~server/services/search.server';

type Change = (changes: Partial<LoopQuery>, replace?: boolean) => void;
const height = 104;

/** Four charts that are filters: drag a tempo range, click keys, bars, families. */
export function Charts({ query, facets, onChange }: { query: LoopQuery; facets: FacetCounts; onChange: Change }) {
  return (
    <div className="grid shrink-0 grid-cols-[1.3fr_1fr_0.8fr_1.7fr] max-xl:grid-cols-[1.1fr_0.95fr_0.6fr_1.9fr] divide-x divide-base-300 border-b border-base-300">
      <TempoChart query={query} counts={facets.tempo} onChange={onChange} />
      <FifthsChart query={query} counts={facets.key} onChange={onChange} />
      <BarsChart query={query} counts={facets.bars} onChange={onChange} />
      <FamilyChart query={query} counts={facets.family} onChange={onChange} />
    </div>
  );
}

function Frame({ title, hint, children }: { title: string; hint: string; children: ReactNode }) {
  return (
    <section className="flex min-w-0 flex-col px-3 py-1.5" aria-label={`${title} filter`}>
      <h2 className="caps flex justify-between">
        {title}
        <span className="font-normal">{hint}</span>
      </h2>
      {children}
    </section>
  );
}

const lowestBpm = 52,
  highestBpm = 192,
  binBpm = 4;

/** How many loops lie where the chart does not reach; empty for none. */
function outsideWords(counts: FacetCounts['tempo']): string {
  const slower = sum(counts, ({ value, count }) => (Number(value) < lowestBpm ? count : 0)),
    faster = sum(counts, ({ value, count }) => (Number(value) >= highestBpm ? count : 0));
  return [slower > 0 && `${slower} slower`, faster > 0 && `${faster} faster`].filter(Boolean).join(', ');
}

/** Tempo histogram. The project's tempo, its half and its double are marked. */
function TempoChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['tempo']; onChange: Change }) {
  const tempoBpm = useProject((state) => state.project?.tempoBpm ?? null),
    svg = useRef<SVGSVGElement>(null),
    [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const width = 360,
    x = scaleLinear([lowestBpm, highestBpm], [0, width]),
    y = scaleLinear([0, max(counts, (each) => each.count) ?? 1], [0, height - 30]);
  const shown = drag ? { fromBpm: Math.min(drag.from, drag.to), toBpm: Math.max(drag.from, drag.to) } : query.tempo;
  const bpmAt = (clientX: number) => {
    const rect = svg.current?.getBoundingClientRect();
    return rect ? Math.round(Math.max(lowestBpm, Math.min(highestBpm, x.invert(((clientX - rect.left) / rect.width) * width)))) : lowestBpm;
  };
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
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
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
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const at = bpmAt(event.clientX);
          setDrag({ from: at, to: at });
        }}
        onPointerMove={(event) => {
          if (drag) setDrag({ ...drag, to: bpmAt(event.clientX) });
        }}
        onPointerUp={() => {
          if (!drag) return;
          const wide = Math.abs(drag.to - drag.from) >= 2;
          setDrag(null);
          onChange({ tempo: wide ? { fromBpm: Math.min(drag.from, drag.to), toBpm: Math.max(drag.from, drag.to) } : null });
        }}
      >
        {shown && (
          <rect
            x={x(shown.fromBpm)}
            width={Math.max(2, x(shown.toBpm) - x(shown.fromBpm))}
            y={0}
            height={height - 16}
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
            y2={height - 16}
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
              y={height - 16 - y(count)}
              height={y(count)}
              fill={inside ? 'var(--wave-strong)' : 'var(--wave-faint)'}
            >
              <title>{`${bpm}–${bpm + binBpm}: ${count}`}</title>
            </rect>
          ) : null;
        })}
        <line x1={0} x2={width} y1={height - 16} y2={height - 16} stroke="var(--grid-strong)" vectorEffect="non-scaling-stroke" />
      </svg>
      <div className="relative -mt-4 h-4 text-[0.72rem]" aria-hidden="true">
        {[60, 80, 100, 120, 140, 160, 180].map((bpm) => (
          <span
            key={bpm}
            className="quiet absolute -translate-x-1/2"
            style={{ left: `${((bpm - lowestBpm) / (highestBpm - lowestBpm)) * 100}%` }}
          >
            {bpm}
          </span>
        ))}
      </div>
    </Frame>
  );
}

/** Keys by fifths, majors outside, minors inside; the arc that goes with the project's key is lit. */
function FifthsChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['key']; onChange: Change }) {
  const projectKey = useProject((state) => state.project?.key ?? null);
  const byCode = new Map(counts.map(({ value, count }) => [value, count])),
    most =
      max(
        counts.filter((each) => !keylessChoices.some(({ value }) => value === each.value)),
        (each) => each.count,
      ) ?? 1;
  const shape = arc<{ inner: number; outer: number; at: number }>()
    .innerRadius((d) => d.inner)
    .outerRadius((d) => d.outer)
    .startAngle((d) => ((d.at - 0.5) * Math.PI) / 6)
    .endAngle((d) => ((d.at + 0.5) * Math.PI) / 6)
    .padAngle(0.03);
  const keys: { key: Key; at: number }[] = Array.from({ length: 12 }, (_, at) => ({
    key: { tonic: (at * 7) % 12, mode: 'major' as const },
    at,
  })).flatMap((each) => [each, { key: relativeKey(each.key), at: each.at }]);
  const projectAt = projectKey ? fifthsPosition(projectKey) : null;
  const near = (at: number) => projectAt !== null && [0, 1, 11].includes((at - projectAt + 12) % 12);
  return (
    <Frame title="Key" hint={projectKey ? `near ${keyName(projectKey)}` : 'click keys'}>
      <div className="flex items-center gap-2">
        <svg viewBox="-66 -56 132 112" className="h-28 min-w-0 flex-1" role="group" aria-label="Circle of fifths">
          {keys.map(({ key, at }) => {
            const code = keyCode(key),
              count = byCode.get(code) ?? 0,
              chosen = chosenOf(query, 'key').includes(code),
              major = key.mode === 'major';
            const mid = (at * Math.PI) / 6 - Math.PI / 2,
              radius = major ? 46 : 30;
            return (
              <g
                key={code}
                role="button"
                tabIndex={0}
                aria-pressed={chosen}
                className="cursor-pointer"
                onClick={() => onChange({ chosen: toggled(query, 'key', code) })}
                onKeyDown={(event) => {
                  if (event.key === 'Enter' || event.key === ' ') {
                    event.preventDefault();
                    event.stopPropagation();
                    onChange({ chosen: toggled(query, 'key', code) });
                  }
                }}
              >
                <title>{`${keyName(key)}, ${count} loops`}</title>
                <path
                  d={shape({ inner: major ? 38 : 21, outer: major ? 54 : 37, at }) ?? ''}
                  fill={
                    chosen
                      ? 'var(--color-primary)'
                      : count
                        ? `color-mix(in oklab, var(--wave-strong) ${Math.round(12 + 38 * (count / most))}%, var(--color-base-100))`
                        : 'var(--color-base-200)'
                  }
                  stroke={near(at) ? 'var(--color-primary)' : 'var(--grid)'}
                  strokeWidth={near(at) ? 1.2 : 0.6}
                />
                <text
                  x={radius * Math.cos(mid)}
                  y={radius * Math.sin(mid)}
                  textAnchor="middle"
                  dominantBaseline="central"
                  fontSize={major ? 8 : 7}
                  fontWeight={600}
                  fill={chosen ? 'var(--color-primary-content)' : 'var(--color-base-content)'}
                  pointerEvents="none"
                  aria-hidden="true"
                >
                  {keyName(key).split(' ')[0]}
                  {major ? '' : 'm'}
                </text>
              </g>
            );
          })}
        </svg>
        <div className="flex flex-col gap-1">
          {keylessChoices
            .filter(({ value }) => value === 'un' || byCode.has(value) || chosenOf(query, 'key').includes(value))
            .map(({ value, label }) => (
              <button
                key={value}
                className={`btn btn-xs ${chosenOf(query, 'key').includes(value) ? 'btn-primary' : ''}`}
                aria-pressed={chosenOf(query, 'key').includes(value)}
                onClick={() => onChange({ chosen: toggled(query, 'key', value) })}
              >
                {label} <span>{byCode.get(value) ?? 0}</span>
              </button>
            ))}
        </div>
      </div>
    </Frame>
  );
}

const mostBarsShown = 9;

function BarsChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['bars']; onChange: Change }) {
  const all = counts.map(({ value, count }) => ({ bars: Number(value), count })),
    // The commonest are shown, and what is chosen already.
    rows = all
      .filter((each) => Number.isInteger(each.bars))
      .sort(
        (a, b) =>
          Number(chosenOf(query, 'bars').includes(String(b.bars))) - Number(chosenOf(query, 'bars').includes(String(a.bars))) ||
          b.count - a.count,
      )
      .slice(0, mostBarsShown)
      .sort((a, b) => a.bars - b.bars),
    hidden = sum(all, ({ count }) => count) - sum(rows, ({ count }) => count);
  const band = scaleBand(
      rows.map((row) => row.bars),
      [0, 200],
    ).padding(0.25),
    y = scaleLinear([0, max(rows, (row) => row.count) ?? 1], [0, height - 34]);
  return (
    <Frame title="Bars" hint={hidden > 0 ? `${hidden} of other lengths` : 'click'}>
      <svg viewBox={`0 0 200 ${height}`} className="h-26 w-full" role="group" aria-label="Bars">
        {rows.map(({ bars, count }) => {
          const chosen = chosenOf(query, 'bars').includes(String(bars)),
            wide = Math.min(36, band.bandwidth()),
            left = (band(bars) ?? 0) + (band.bandwidth() - wide) / 2;
          return (
            <g
              key={bars}
              role="button"
              tabIndex={0}
              aria-pressed={chosen}
              className="cursor-pointer"
              onClick={() => onChange({ chosen: toggled(query, 'bars', String(bars)) })}
              onKeyDown={(event) => {
                if (event.key === 'Enter' || event.key === ' ') {
                  event.preventDefault();
                  event.stopPropagation();
                  onChange({ chosen: toggled(query, 'bars', String(bars)) });
                }
              }}
            >
              <title>{`${bars} ${bars === 1 ? 'bar' : 'bars'}, ${count} loops`}</title>
              <rect x={left} y={0} width={wide} height={height} fill="transparent" />
              <rect
                x={left}
                width={wide}
                y={height - 16 - y(count)}
                height={Math.max(1, y(count))}
                fill={chosen ? 'var(--color-primary)' : chosenOf(query, 'bars').length ? 'var(--wave-faint)' : 'var(--wave-strong)'}
              />
              <text
                aria-hidden="true"
                x={left + wide / 2}
                y={height - 20 - y(count)}
                textAnchor="middle"
                fontSize={10}
                fill="var(--color-base-content)"
              >
                {count}
              </text>
              <text
                aria-hidden="true"
                x={left + wide / 2}
                y={height - 3}
                textAnchor="middle"
                fontSize={11}
                fontWeight={600}
                fill="var(--color-base-content)"
              >
                {bars}
              </text>
            </g>
          );
        })}
      </svg>
    </Frame>
  );
}

function FamilyChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['family']; onChange: Change }) {
  const rows = [...counts].sort((a, b) => b.count - a.count).slice(0, 14),
    most = max(rows, (row) => row.count) ?? 1;
  return (
    <Frame title="Instruments" hint="click">
      <div className="grid h-28 grid-flow-col grid-rows-4 content-start gap-x-1 gap-y-0.5 overflow-hidden py-0.5">
        {rows.map(({ value, count }) => {
          const family = value as Family,
            chosen = chosenOf(query, 'family').includes(family);
          return (
            <button
              key={value}
              aria-pressed={chosen}
              className={`flex h-6 min-w-0 items-center gap-1 rounded-sm px-1 text-left text-[0.82rem] hover:bg-base-200 ${chosen ? 'bg-base-300 font-semibold' : ''}`}
              onClick={() => onChange({ chosen: toggled(query, 'family', family) })}
            >
              <span className="w-3 text-center font-semibold" style={{ color: `var(--family-${family})` }} aria-hidden="true">
                {families[family].letter}
              </span>
              <span className="min-w-0 flex-1 truncate">{families[family].label}</span>
              <span
                className="h-2 shrink-0 max-xl:hidden"
                style={{ width: `${Math.max(2, (count / most) * 18)}px`, background: `var(--family-${family})` }}
                aria-hidden="true"
              />
              <span className="shrink-0 text-right">{count}</span>
            </button>
          );
        })}
      </div>
    </Frame>
  );
}
