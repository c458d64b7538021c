import { arc, max } from 'd3';
import { keylessChoices } from '~core/analysis/attributes/key';
import { chosenOf, toggled } from '~core/search/query';
import { fifthsPosition, keyCode, keyName, relativeKey, type Key } from '~core/theory/key';
import { useProject } from '~/ui/project-store';
import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { Frame, switchMark, type Change } from './frame';

/** Keys by fifths, majors outside, minors inside; the arc that goes with the project's key is lit. */
export function FifthsChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['key']; onChange: Change }) {
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
        <svg viewBox="-56 -56 112 112" className="h-28 min-w-0 flex-1" role="group" aria-label="Circle of fifths">
          {keys.map(({ key, at }) => {
            const code = keyCode(key),
              count = byCode.get(code) ?? 0,
              chosen = chosenOf(query, 'key').includes(code),
              major = key.mode === 'major';
            const mid = (at * Math.PI) / 6 - Math.PI / 2,
              radius = major ? 47 : 31;
            return (
              <g key={code} {...switchMark(chosen, () => onChange({ chosen: toggled(query, 'key', code) }))}>
                <title>{`${keyName(key)}, ${count} loops`}</title>
                <path
                  d={shape({ inner: major ? 39 : 22, outer: major ? 55 : 38, at }) ?? ''}
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
                  fontSize={12.6}
                  fontWeight={major ? 600 : 500}
                  fill={chosen ? 'var(--color-primary-content)' : 'var(--color-base-content)'}
                  pointerEvents="none"
                  aria-hidden="true"
                >
                  {major ? keyName(key).split(' ')[0] : keyName(key).split(' ')[0].toLowerCase()}
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
