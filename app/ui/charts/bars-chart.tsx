import { max, scaleBand, scaleLinear, sum } from 'd3';
import { chosenOf, toggled } from '~core/search/query';
import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { chartHeight, Frame, switchMark, type Change } from './frame';

const mostBarsShown = 9;

/** How many bars; the commonest lengths. */
export function BarsChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['bars']; onChange: Change }) {
  const all = counts.map(({ value, count }) => ({ bars: Number(value), count })),
    // The commonest are shown, and what is chosen already.
    rows = all
      // What there is none of now stays where it was, quietly.
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
    y = scaleLinear([0, max(rows, (row) => row.count) ?? 1], [0, chartHeight - 38]);
  return (
    <Frame title="Bars" hint={hidden > 0 ? `${hidden} of other lengths` : 'click'}>
      <svg viewBox={`0 0 200 ${chartHeight}`} className="h-26 w-full" role="group" aria-label="Bars">
        {rows.map(({ bars, count }) => {
          const chosen = chosenOf(query, 'bars').includes(String(bars)),
            wide = Math.min(36, band.bandwidth()),
            left = (band(bars) ?? 0) + (band.bandwidth() - wide) / 2;
          return (
            <g key={bars} {...switchMark(chosen, () => onChange({ chosen: toggled(query, 'bars', String(bars)) }))}>
              <title>{`${bars} ${bars === 1 ? 'bar' : 'bars'}, ${count} loops`}</title>
              <rect x={left} y={0} width={wide} height={chartHeight} fill="transparent" />
              <rect
                x={left}
                width={wide}
                y={chartHeight - 18 - y(count)}
                height={Math.max(1, y(count))}
                fill={
                  chosen
                    ? 'var(--color-primary)'
                    : chosenOf(query, 'bars').length || count === 0
                      ? 'var(--wave-faint)'
                      : 'var(--wave-strong)'
                }
              />
              <text
                aria-hidden="true"
                x={left + wide / 2}
                y={chartHeight - 22 - y(count)}
                textAnchor="middle"
                fontSize={12.6}
                fill="var(--color-base-content)"
              >
                {count}
              </text>
              <text
                aria-hidden="true"
                x={left + wide / 2}
                y={chartHeight - 2}
                textAnchor="middle"
                fontSize={12.6}
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
