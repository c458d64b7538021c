import { max, scaleLinear } from 'd3';
import { pitchClassName, type Key } from '~core/theory/key';

const scales = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 8, 10] } as const;

/** How strong each note is; those of the key's scale are inked, the tonic in garnet. */
export function ChromaChart({ chroma, musicKey }: { chroma: readonly number[]; musicKey: Key | null }) {
  const y = scaleLinear([0, max(chroma) || 1], [0, 70]);
  const inScale = (pitch: number) =>
    musicKey !== null && (scales[musicKey.mode] as readonly number[]).includes((pitch - musicKey.tonic + 12) % 12);
  const words = chroma
    .map((value, pitch) => ({ pitch, value }))
    .sort((a, b) => b.value - a.value)
    .slice(0, 4)
    .map(({ pitch }) => pitchClassName(pitch))
    .join(', ');
  return (
    <svg viewBox="0 0 240 92" className="mt-1 w-full" role="img" aria-label={`Strongest notes: ${words}`}>
      {chroma.map((value, pitch) => (
        <g key={pitch} transform={`translate(${pitch * 20}, 0)`}>
          <rect
            x={3}
            width={14}
            y={74 - y(value)}
            height={Math.max(1, y(value))}
            fill={musicKey?.tonic === pitch ? 'var(--color-primary)' : inScale(pitch) ? 'var(--wave-strong)' : 'var(--wave-faint)'}
          />
          <text
            x={10}
            y={88}
            textAnchor="middle"
            fontSize={11}
            fill="var(--color-base-content)"
            fontWeight={musicKey?.tonic === pitch ? 700 : 400}
          >
            {pitchClassName(pitch)}
          </text>
        </g>
      ))}
    </svg>
  );
}
