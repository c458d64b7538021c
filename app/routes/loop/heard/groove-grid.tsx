import type { Groove } from '~core/analysis/rhythm/accents';

const rows = ['low', 'middle', 'high'];

/** Accents on the sixteenths of a bar in three bands: the darker, the stronger. */
export function GrooveGrid({ groove, perBeat }: { groove: Groove; perBeat: number }) {
  const cells = groove.accents[0].length,
    size = Math.min(20, 300 / cells);
  const strong = groove.accents.map((band) => band.flatMap((value, place) => (value > 0.5 ? [place + 1] : [])).join(', ') || 'none');
  return (
    <svg
      viewBox={`0 0 ${52 + cells * size} 78`}
      className="w-full max-w-md"
      role="img"
      aria-label={`Accents by step of the bar. Low: ${strong[0]}. Middle: ${strong[1]}. High: ${strong[2]}.`}
    >
      {[2, 1, 0].map((band, row) => (
        <g key={band} transform={`translate(0, ${row * 21})`}>
          <text x={0} y={14} fontSize={11} fill="var(--color-base-content)">
            {rows[band]}
          </text>
          {groove.accents[band].map((value, place) => (
            <rect
              key={place}
              x={52 + place * size}
              y={2}
              width={size - 1.5}
              height={17}
              fill="var(--wave-strong)"
              fillOpacity={0.08 + 0.92 * Math.min(1, value)}
              stroke={place % perBeat === 0 ? 'var(--wave-strong)' : 'none'}
              strokeWidth={0.75}
            />
          ))}
        </g>
      ))}
      {Array.from({ length: Math.ceil(cells / perBeat) }, (_, beat) => (
        <text key={beat} x={52 + beat * perBeat * size} y={76} fontSize={11} fill="var(--color-base-content)">
          {beat + 1}
        </text>
      ))}
    </svg>
  );
}
