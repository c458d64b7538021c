import { arc } from 'd3';
import { allKeys, fifthsPosition, keyName, sameKey, type Key } from '~core/theory/key';
import { isKey, keyValueName, type KeyValue } from '~core/analysis/attributes/key';
import type { Candidate } from '~core/analysis/facts';

const ring = { major: [62, 96], minor: [30, 62] } as const;

/** The circle of fifths, major outside and minor inside; how likely each key is, by ink. */
export function KeyCircle({ chosen, keys }: { chosen: Key | null; keys: readonly Candidate<KeyValue>[] }) {
  const likely = (key: Key) => keys.find(({ value }) => isKey(value) && sameKey(value, key))?.probability ?? 0,
    top = [...keys].sort((a, b) => b.probability - a.probability).slice(0, 3);
  const words = top.map(({ value, probability }) => `${keyValueName(value)} ${Math.round(probability * 100)} percent`).join(', ');
  return (
    <svg viewBox="-100 -100 200 200" className="w-full max-w-60" role="img" aria-label={`Circle of fifths: ${words}`}>
      {allKeys.map((key) => {
        const at = fifthsPosition(key),
          [innerRadius, outerRadius] = ring[key.mode],
          startAngle = ((at - 0.5) / 12) * 2 * Math.PI,
          shape = arc()({ innerRadius, outerRadius, startAngle, endAngle: startAngle + Math.PI / 6 }) ?? '',
          middle = (innerRadius + outerRadius) / 2,
          angle = (at / 12) * 2 * Math.PI,
          probability = likely(key),
          isChosen = sameKey(chosen, key);
        return (
          <g key={keyName(key)}>
            <path
              d={shape}
              fill={isChosen ? 'var(--color-primary)' : 'var(--wave-strong)'}
              fillOpacity={isChosen ? 1 : probability < 0.01 ? 0 : 0.1 + 0.4 * Math.sqrt(probability)}
              stroke="var(--color-base-300)"
            />
            <text
              x={Math.sin(angle) * middle}
              y={-Math.cos(angle) * middle + 4}
              fontSize={key.mode === 'major' ? 12 : 10}
              fontWeight={isChosen ? 700 : 400}
              textAnchor="middle"
              fill={isChosen ? 'var(--color-primary-content)' : 'var(--color-base-content)'}
            >
              {keyName(key).replace(' major', '').replace(' minor', 'm')}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
