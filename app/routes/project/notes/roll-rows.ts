import { highestPercussionKey, lowestPercussionKey, percussionName } from '~core/theory/percussion-keys';
import { noteName } from '~core/theory/key';
import type { PatternNote } from '~core/arrangement/pattern/pattern';

/** The rows of the editor: one a pitch, the highest on top. */
export interface RollRows {
  readonly isDrums: boolean;
  readonly highest: number;
  readonly lowest: number;
  readonly height: number;
}

export const melodicRows: RollRows = { isDrums: false, highest: 120, lowest: 12, height: 12 };
export const drumRows: RollRows = { isDrums: true, highest: highestPercussionKey, lowest: lowestPercussionKey, height: 17 };

export const rowCount = ({ highest, lowest }: RollRows): number => highest - lowest + 1;
export const topOf = ({ highest, height }: RollRows, pitch: number): number => (highest - pitch) * height;
export const pitchAt = ({ highest, lowest, height }: RollRows, y: number): number =>
  Math.max(lowest, Math.min(highest, highest - Math.floor(y / height)));
export const rowName = ({ isDrums }: RollRows, pitch: number): string => (isDrums ? percussionName(pitch) : noteName(pitch));

/** Over so many pixels at its end a note is made longer, not moved. */
const edgePixels = 6;

/** Hits of drums are drawn alike, however long they are written. */
export const drawnBeats = ({ isDrums }: RollRows, { lengthBeats }: Pick<PatternNote, 'lengthBeats'>): number =>
  isDrums ? 1 / 4 : lengthBeats;

/** The note under a point, the last drawn first, and whether its end is meant. */
export function noteAt(
  notes: readonly PatternNote[],
  rows: RollRows,
  beatPixels: number,
  x: number,
  y: number,
): { readonly note: PatternNote; readonly isEnd: boolean } | null {
  const pitch = pitchAt(rows, y);
  for (let k = notes.length - 1; k >= 0; k--) {
    const note = notes[k];
    if (note.pitch !== pitch) continue;
    const left = note.startBeat * beatPixels,
      right = left + Math.max(5, drawnBeats(rows, note) * beatPixels);
    if (x >= left - 1 && x <= right + 1) return { note, isEnd: !rows.isDrums && right - x < Math.min(edgePixels, (right - left) / 3) };
  }
  return null;
}

/** The notes inside a band between two points. */
export function notesIn(
  notes: readonly PatternNote[],
  rows: RollRows,
  beatPixels: number,
  band: { readonly fromX: number; readonly fromY: number; readonly toX: number; readonly toY: number },
): string[] {
  const [left, right] = [Math.min(band.fromX, band.toX) / beatPixels, Math.max(band.fromX, band.toX) / beatPixels],
    [top, bottom] = [pitchAt(rows, Math.min(band.fromY, band.toY)), pitchAt(rows, Math.max(band.fromY, band.toY))];
  return notes
    .filter((note) => note.startBeat < right && note.startBeat + drawnBeats(rows, note) > left && note.pitch <= top && note.pitch >= bottom)
    .map(({ id }) => id);
}
