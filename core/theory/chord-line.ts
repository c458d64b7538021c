import { noChord, readChord } from './chord';

/** A chord from a beat on, until the next. */
export interface PlacedChord {
  readonly startBeat: number;
  readonly symbol: string;
}

export type ChordLine =
  | { readonly ok: true; readonly chords: readonly PlacedChord[] }
  /** `symbol`: the first that is no chord. */
  | { readonly ok: false; readonly symbol: string };

/**
 * Chords as one types them: a word a bar; a dot keeps the one before; a comma parts chords that share a bar. A slash is the chord's own bass.
 * @example parseChordLine('Dm/G . Am,E7', 4) // => Dm/G from beat 0, Am from 8, E7 from 10
 */
export function parseChordLine(text: string, barBeats: number): ChordLine {
  const chords: PlacedChord[] = [];
  for (const [bar, word] of text.trim().split(/\s+/).filter(Boolean).entries()) {
    if (word === '.') continue;
    const symbols = word.split(',').filter(Boolean);
    for (const [part, symbol] of symbols.entries()) {
      if (!isChordSymbol(symbol)) return { ok: false, symbol };
      chords.push({ startBeat: (bar + part / symbols.length) * barBeats, symbol });
    }
  }
  return { ok: true, chords };
}

/** The same, written: what `parseChordLine` reads back wherever chords lie evenly in their bars. */
export function formatChordLine(chords: readonly PlacedChord[], barBeats: number): string {
  const bars: string[][] = [];
  for (const { startBeat, symbol } of chords) (bars[Math.floor(startBeat / barBeats + 1e-6)] ??= []).push(symbol);
  return Array.from(bars, (symbols) => symbols?.join(',') ?? '.').join(' ');
}

const longestSymbol = 20;

/** Whether a text is a chord that can be kept, or says that none sounds. */
export const isChordSymbol = (text: string): boolean => text.length <= longestSymbol && (text === noChord || readChord(text) !== null);
