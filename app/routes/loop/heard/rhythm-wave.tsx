import { decodeOverview } from '~/ui/waveform';
import { barLines } from './bar-lines';

const width = 1200,
  height = 172,
  waveTop = 18,
  hitsHeight = 20,
  waveHeight = height - waveTop - hitsHeight - 6;

/** Bars as vertical lines with their numbers, beats fainter, hits as stems below; what lies before bar 1 and behind the last bar is shaded and named. */
export function RhythmWave({
  overview,
  lengthSeconds,
  startSeconds,
  beatSeconds,
  beats,
  barBeats,
  beatMap = null,
  hits = [],
}: {
  overview: string;
  lengthSeconds: number;
  startSeconds: number;
  /** null for what has no beat. */
  beatSeconds: number | null;
  beats: number;
  barBeats: number;
  /** Seconds of each beat where a player's time wanders. */
  beatMap?: readonly number[] | null;
  /** Seconds and strength of each hit: stems under the waveform. */
  hits?: readonly (readonly [seconds: number, strength: number])[];
}) {
  const bytes = decodeOverview(overview),
    step = width / bytes.length,
    x = (seconds: number) => (seconds / Math.max(0.001, lengthSeconds)) * width;
  let path = '';
  bytes.forEach((value, k) => {
    const size = Math.max(1, (value / 255) ** 1.2 * waveHeight);
    path += `M${(k * step).toFixed(1)} ${(waveTop + (waveHeight - size) / 2).toFixed(1)}h${(step - 1).toFixed(1)}v${size.toFixed(1)}h${(1 - step).toFixed(1)}z`;
  });
  const end = beatSeconds === null ? lengthSeconds : startSeconds + beats * beatSeconds,
    tail = lengthSeconds - end,
    lines = beatSeconds === null ? [] : barLines(beats, barBeats),
    words =
      beatSeconds === null
        ? `Waveform of ${lengthSeconds.toFixed(1)} seconds, no beat`
        : `Waveform: bar 1 begins at ${startSeconds.toFixed(3)} seconds, ${beats / barBeats} bars end at ${end.toFixed(2)}${tail > 0.05 ? `, then ${tail.toFixed(1)} seconds of tail` : ''}`;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`${words}; ${hits.length} ${hits.length === 1 ? 'hit' : 'hits'}`}
    >
      {beatSeconds !== null && startSeconds > 0.002 && (
        <rect x={0} y={waveTop} width={x(startSeconds)} height={waveHeight} fill="var(--color-base-300)" />
      )}
      {beatSeconds !== null && tail > 0.02 && (
        <g>
          <rect x={x(end)} y={waveTop} width={width - x(end)} height={waveHeight} fill="var(--color-base-300)" />
          <text x={Math.min(width - 30, x(end) + 6)} y={13} fontSize={13} fill="var(--color-base-content)">
            tail
          </text>
        </g>
      )}
      <path d={path} fill="var(--wave)" />
      {lines.map(({ beat, bar }) => {
        const at = x(beatMap?.[beat] ?? startSeconds + beat * (beatSeconds ?? 0));
        return (
          <g key={beat}>
            <line
              x1={at}
              x2={at}
              y1={bar ? waveTop - 4 : waveTop + waveHeight * 0.7}
              y2={waveTop + waveHeight}
              stroke={beat === 0 ? 'var(--color-primary)' : 'var(--wave-strong)'}
              strokeWidth={beat === 0 ? 3 : bar ? 1.5 : 0.75}
              strokeOpacity={bar ? 1 : 0.7}
            />
            {bar && beat < beats && x(barBeats * (beatSeconds ?? 0)) > 26 && (
              <text x={at + 4} y={13} fontSize={13} fill="var(--color-base-content)">
                {beat / barBeats + 1}
              </text>
            )}
          </g>
        );
      })}
      {hits.map(([seconds, strength], k) => (
        <line
          key={k}
          x1={x(seconds)}
          x2={x(seconds)}
          y1={height - Math.max(3, strength * hitsHeight)}
          y2={height}
          stroke="var(--color-base-content)"
          strokeWidth={2}
        />
      ))}
    </svg>
  );
}
