import { area, curveMonotoneX, scaleLinear, scaleLog } from 'd3';
import { pulseTempos } from '~core/analysis/tempo/pulse-tempos';
import type { Candidate } from '~core/analysis/facts';

const width = 360,
  height = 120,
  ground = 98;

/** How well the onsets repeat at each tempo, with the chosen tempo and its rivals marked. */
export function TempoCurve({
  pulse,
  chosen,
  rivals,
}: {
  pulse: readonly number[];
  chosen: number | null;
  rivals: readonly Candidate<number>[];
}) {
  const x = scaleLog([pulseTempos[0], pulseTempos[pulseTempos.length - 1]], [6, width - 6]).clamp(true),
    y = scaleLinear([0, Math.max(0.05, ...pulse)], [ground, 22]);
  const shape = area<number>()
    .x((_, k) => x(pulseTempos[k]))
    .y0(ground)
    .y1((value) => y(value))
    .curve(curveMonotoneX)([...pulse]);
  const shown = rivals.filter(({ value, probability }) => probability >= 0.03 && value >= 50 && value <= 196).slice(0, 3),
    words = `Pulse by tempo; chosen ${chosen?.toFixed(1) ?? 'none'}${shown.length ? `, also possible ${shown.map(({ value, probability }) => `${value.toFixed(1)} at ${Math.round(probability * 100)} percent`).join(', ')}` : ''}`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={words}>
      <path d={shape ?? ''} fill="var(--wave-faint)" stroke="var(--wave)" strokeWidth={1} />
      {[60, 80, 100, 120, 140, 170].map((tempo) => (
        <text key={tempo} x={x(tempo)} y={height - 6} fontSize={11} textAnchor="middle" fill="var(--color-base-content)">
          {tempo}
        </text>
      ))}
      {shown.map(({ value, probability }) => (
        <g key={value}>
          <line x1={x(value)} x2={x(value)} y1={30} y2={ground} stroke="var(--wave-strong)" strokeDasharray="3 3" />
          <text x={x(value)} y={26} fontSize={11} textAnchor="middle" fill="var(--color-base-content)">
            {Math.round(probability * 100)} %
          </text>
        </g>
      ))}
      {chosen !== null && (
        <g>
          <line x1={x(chosen)} x2={x(chosen)} y1={16} y2={ground} stroke="var(--color-primary)" strokeWidth={2} />
          <text x={x(chosen)} y={12} fontSize={12} fontWeight={700} textAnchor="middle" fill="var(--color-primary)">
            {chosen.toFixed(1)}
          </text>
        </g>
      )}
    </svg>
  );
}
