/** A line on a loop's waveform; `bar`: a bar begins there, or the loop ends. */
export interface BarLine {
  readonly beat: number;
  readonly bar: boolean;
}

const most = 257;

/** The lines of all beats and bars, the end among them. Beats are counted from the bar's own line, for bars of 7/8 hold three and a half. */
export function barLines(beats: number, barBeats: number): BarLine[] {
  const lines: BarLine[] = [];
  for (let bar = 0; bar * barBeats < beats - 1e-6; bar++)
    for (let beat = bar * barBeats; beat < Math.min(beats, (bar + 1) * barBeats) - 1e-6; beat++)
      lines.push({ beat, bar: beat === bar * barBeats });
  return [...lines, { beat: beats, bar: true }].slice(0, most);
}
