import { scaleLinear } from 'd3';
import type { HeardNote } from '~core/analysis/melody/melody';
import { noteName } from '~core/theory/key';
import { pitchClass } from '~core/units/pitch';

const width = 900,
  left = 34,
  rowHeight = 11;

/** The notes of a single voice over time: higher is higher, and the louder the fuller. Bars are the lines behind them. */
export function MelodyRoll({
  melody,
  lengthSeconds,
  barSeconds,
  startSeconds,
}: {
  melody: readonly HeardNote[];
  lengthSeconds: number;
  /** null for what has no bars. */
  barSeconds: number | null;
  startSeconds: number;
}) {
  const lowest = Math.min(...melody.map(({ pitch }) => pitch)) - 1,
    highest = Math.max(...melody.map(({ pitch }) => pitch)) + 1,
    rows = highest - lowest + 1,
    height = rows * rowHeight + 6,
    x = scaleLinear([0, Math.max(0.001, lengthSeconds)], [left, width]),
    y = (pitch: number) => (highest - pitch) * rowHeight + 2;
  const bars =
    barSeconds === null
      ? []
      : Array.from(
          { length: Math.min(65, Math.floor((lengthSeconds - startSeconds) / barSeconds) + 1) },
          (_, k) => startSeconds + k * barSeconds,
        );
  const words = melody
    .slice(0, 32)
    .map(({ pitch }) => noteName(pitch))
    .join(', ');
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`Melody of ${melody.length} notes: ${words}${melody.length > 32 ? ' and on' : ''}`}
    >
      {Array.from({ length: rows }, (_, k) => highest - k).map((pitch) => (
        <g key={pitch}>
          <rect
            x={left}
            y={y(pitch)}
            width={width - left}
            height={rowHeight}
            fill="var(--color-base-300)"
            fillOpacity={[1, 3, 6, 8, 10].includes(pitchClass(pitch)) ? 0.75 : 0.25}
          />
          {(pitch % 12 === 0 || rows < 14) && (
            <text x={0} y={y(pitch) + 9} fontSize={11} fill="var(--color-base-content)">
              {noteName(pitch)}
            </text>
          )}
        </g>
      ))}
      {bars.map((at) => (
        <line key={at} x1={x(at)} x2={x(at)} y1={0} y2={height} stroke="var(--wave-strong)" strokeWidth={1} strokeOpacity={0.6} />
      ))}
      {melody.map(({ startSeconds: at, lengthSeconds: long, pitch, strength, cents }, k) => (
        <rect
          key={k}
          x={x(at)}
          y={y(pitch) + 1}
          width={Math.max(2, x(at + long) - x(at) - 1)}
          height={rowHeight - 2}
          rx={2}
          fill="var(--color-primary)"
          fillOpacity={0.45 + 0.55 * strength}
        >
          <title>{`${noteName(pitch)}, ${Math.abs(cents) < 1 ? 'in tune' : `${Math.round(Math.abs(cents))} cents ${cents > 0 ? 'sharp' : 'flat'}`}`}</title>
        </rect>
      ))}
    </svg>
  );
}
