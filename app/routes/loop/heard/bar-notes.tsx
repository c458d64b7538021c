import type { BarNotes } from '~core/analysis/chords/bars';
import { noteName, pitchClassName } from '~core/theory/key';

const chordName = ({ root, minor }: { root: number; minor: boolean }): string => `${pitchClassName(root)}${minor ? 'm' : ''}`;

/** A column a bar: its likeliest triad, its lowest note, and which notes sound in it. */
export function BarNotesChart({ bars }: { bars: readonly BarNotes[] }) {
  const column = Math.max(26, Math.min(90, 560 / bars.length)),
    words = bars.map(({ chord }, k) => `bar ${k + 1} ${chord ? chordName(chord).replace('m', ' minor') : 'nothing'}`).join(', ');
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Chords and notes by bar">
      <svg width={34 + bars.length * column} height={212} role="img" aria-label={`Chords by bar: ${words}`}>
        {Array.from({ length: 12 }, (_, row) => 11 - row).map((pitch, row) => (
          <text key={pitch} x={0} y={50 + row * 13} fontSize={10} fill="var(--color-base-content)">
            {pitchClassName(pitch)}
          </text>
        ))}
        {bars.map((bar, k) => (
          <g key={k} transform={`translate(${30 + k * column}, 0)`}>
            <text x={2} y={12} fontSize={10} fill="var(--color-base-content)">
              {k + 1}
            </text>
            <text
              x={2}
              y={31}
              fontSize={14}
              fontWeight={650}
              fill="var(--color-base-content)"
              fillOpacity={bar.chord && bar.chord.probability < 0.4 ? 0.75 : 1}
            >
              {bar.chord ? `${chordName(bar.chord)}${bar.chord.probability < 0.4 ? '?' : ''}` : '–'}
            </text>
            {bar.pitchClasses.map((value, pitch) => (
              <rect
                key={pitch}
                x={0}
                y={40 + (11 - pitch) * 13}
                width={column - 2}
                height={12}
                fill={bar.chord?.root === pitch ? 'var(--color-primary)' : 'var(--wave-strong)'}
                fillOpacity={value < 0.06 ? 0.03 : value}
              />
            ))}
            <text x={2} y={208} fontSize={10} fill="var(--color-base-content)">
              {bar.bass === null ? '' : noteName(bar.bass)}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
