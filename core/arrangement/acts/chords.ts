import { noChord, transposeChord } from '../../theory/chord';
import type { Key } from '../../theory/key';
import type { ChordMark } from '../tree';

/*
 * What is done to the chord line: each gives the whole line as it is afterwards, in order, no two at one beat, and none that says what holds already.
 */

const nearly = 1e-6;

/** In order; of two at one beat the later said counts; what only goes on is not said again. */
function tidy(chords: readonly ChordMark[]): ChordMark[] {
  const byBeat = [...chords.keys()].sort((a, b) => chords[a].startBeat - chords[b].startBeat || a - b).map((k) => chords[k]),
    out: ChordMark[] = [];
  for (const chord of byBeat) {
    if (out.length > 0 && Math.abs(out[out.length - 1].startBeat - chord.startBeat) < nearly) out.pop();
    if (out.at(-1)?.symbol !== chord.symbol) out.push(chord);
  }
  return out[0]?.symbol === noChord ? out.slice(1) : out;
}

/** A chord from a beat on, until the next. */
export const putChord = (chords: readonly ChordMark[], startBeat: number, symbol: string): ChordMark[] =>
  tidy([...chords, { startBeat, symbol }]);

/** Without the chord of a beat: the one before goes on. */
export const removeChord = (chords: readonly ChordMark[], startBeat: number): ChordMark[] =>
  tidy(chords.filter((chord) => Math.abs(chord.startBeat - startBeat) > nearly));

/** A chord that begins elsewhere, between its neighbours; and one that was not the last one ends there where the last is let go. */
export function moveChordStart(chords: readonly ChordMark[], index: number, toBeat: number, leastBeats: number): ChordMark[] {
  const low = index > 0 ? chords[index - 1].startBeat + leastBeats : 0,
    high = index + 1 < chords.length ? chords[index + 1].startBeat - leastBeats : Infinity,
    startBeat = Math.max(low, Math.min(high, toBeat));
  return chords.map((chord, k) => (k === index ? { ...chord, startBeat } : chord));
}

/** How long a chord holds: the next begins later or earlier; behind the last no chord sounds. */
export const setChordEnd = (chords: readonly ChordMark[], index: number, endBeat: number, leastBeats: number): ChordMark[] =>
  index + 1 < chords.length
    ? moveChordStart(chords, index + 1, endBeat, leastBeats)
    : tidy([...chords, { startBeat: Math.max(chords[index].startBeat + leastBeats, endBeat), symbol: noChord }]);

/** The chords of a stretch, from its start; the one that holds at it among them. */
export function chordsWithin(chords: readonly ChordMark[], fromBeat: number, toBeat: number): ChordMark[] {
  const held = chords.findLast(({ startBeat }) => startBeat <= fromBeat + nearly);
  return [
    ...(held ? [{ ...held, startBeat: 0 }] : []),
    ...chords
      .filter(({ startBeat }) => startBeat > fromBeat + nearly && startBeat < toBeat - nearly)
      .map((chord) => ({ ...chord, startBeat: chord.startBeat - fromBeat })),
  ];
}

/** Chords laid over a stretch: what held behind it holds there again. @param inside from the stretch's start */
export function layChords(chords: readonly ChordMark[], inside: readonly ChordMark[], fromBeat: number, lengthBeats: number): ChordMark[] {
  const end = fromBeat + lengthBeats,
    after = chords.findLast(({ startBeat }) => startBeat <= end + nearly),
    isOver = (beat: number) => beat > fromBeat - nearly && beat < end - nearly;
  return tidy([
    ...chords.filter(({ startBeat }) => !isOver(startBeat)),
    ...(after && after.startBeat < end - nearly ? [{ ...after, startBeat: end }] : []),
    ...inside
      .filter(({ startBeat }) => startBeat < lengthBeats - nearly)
      .map((chord) => ({ ...chord, startBeat: chord.startBeat + fromBeat })),
  ]);
}

/** The chords of a range once more from another beat on. */
export const copyChords = (chords: readonly ChordMark[], fromBeat: number, toBeat: number, atBeat: number): ChordMark[] =>
  layChords(chords, chordsWithin(chords, fromBeat, toBeat), atBeat, toBeat - fromBeat);

/** The chords that begin in a range so many semitones higher, spelled as a key spells them. */
export const transposeChords = (
  chords: readonly ChordMark[],
  fromBeat: number,
  toBeat: number,
  semitones: number,
  key: Key | null,
): ChordMark[] =>
  tidy(
    chords.map((chord) =>
      chord.startBeat > fromBeat - nearly && chord.startBeat < toBeat - nearly && chord.symbol !== noChord
        ? { ...chord, symbol: transposeChord(chord.symbol, semitones, key) }
        : chord,
    ),
  );

/** Chords one a bar, round and round until a stretch is full. */
export function progressionOver(symbols: readonly string[], lengthBeats: number, barBeats: number): ChordMark[] {
  if (symbols.length === 0) return [];
  return Array.from({ length: Math.ceil(lengthBeats / barBeats - nearly) }, (_, bar) => ({
    startBeat: bar * barBeats,
    symbol: symbols[bar % symbols.length],
  }));
}
