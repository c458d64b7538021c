import { chordChanges, sureTriad, type BarNotes, type Triad } from '~core/analysis/chords/bars';
import { noteName, pitchClassName } from '~core/theory/key';
import { chordName } from '~/ui/format';

/** A column a bar: its likeliest triad, its lowest note, and which notes sound in it. */
export function BarNotesChart({
  bars,
  beatChords = [],
  barBeats,
}: {
  bars: readonly BarNotes[];
  beatChords?: readonly (Triad | null)[];
  barBeats: number;
}) {
  const column = Math.max(26, Math.min(90, 560 / bars.length));
  /** What a bar is called: its chord, or the chords that follow each other in it where there is room for them. */
  const nameOf = ({ chord }: BarNotes, k: number): string => {
    const changes = chordChanges(beatChords.slice(k * barBeats, (k + 1) * barBeats));
    if (changes.length && column >= 56) return changes.map(chordName).join(' ');
    return chord ? `${chordName(chord)}${chord.probability < sureTriad ? '?' : ''}` : '–';
  };
  const words = bars.map((bar, k) => `bar ${k + 1} ${nameOf(bar, k).replace(/m\b/g, ' minor').replace('–', 'nothing')}`).join(', ');
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Chords and notes by bar">
      <svg width={34 + bars.length * column} height={212} role="img" aria-label={`Chords by bar: ${words}`}>
        {Array.from({ length: 12 }, (_, row) => 11 - row).map((pitch, row) => (
          <text key={pitch} x={0} y={50 + row * 13} fontSize={11} fill="var(--color-base-content)">
            {pitchClassName(pitch)}
          </text>
        ))}
        {bars.map((bar, k) => (
          <g key={k} transform={`translate(${30 + k * column}, 0)`}>
            <text x={2} y={12} fontSize={11} fill="var(--color-base-content)">
              {k + 1}
            </text>
            <text
              x={2}
              y={31}
              fontSize={14}
              fontWeight={650}
              fill="var(--color-base-content)"
              fillOpacity={bar.chord && bar.chord.probability < sureTriad ? 0.75 : 1}
            >
              {nameOf(bar, k)}
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
            <text x={2} y={208} fontSize={11} fill="var(--color-base-content)">
              {bar.bass === null ? '' : noteName(bar.bass)}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
