import { useCallback, useMemo } from 'react';
import type { PatternNote } from '~core/arrangement/pattern/pattern';
import { drawNames, drawRoll, drawVelocities, type RollPicture } from './draw-roll';

interface Seen extends Omit<RollPicture, 'scrollX' | 'scrollY'> {
  readonly scroll: { readonly x: number; readonly y: number };
  /** Notes as they are while they are dragged, in the place of those of the same names. */
  readonly draft: readonly PatternNote[] | null;
}

/** Notes with those that are dragged where they are now. */
function withDraft(notes: readonly PatternNote[], draft: readonly PatternNote[] | null): readonly PatternNote[] {
  if (!draft) return notes;
  const moved = new Set(draft.map(({ id }) => id));
  return [...notes.filter(({ id }) => !moved.has(id)), ...draft];
}

/** What draws the editor: its grid, the names of its rows, its velocities; the same as long as what they show is the same. */
export function useDrawings({
  rows,
  notes,
  draft,
  chosen,
  lengthBeats,
  barBeats,
  gridBeats,
  beatPixels,
  scroll,
  harmony,
  atBeat,
  cursor,
  colour,
  ghosts,
}: Seen) {
  const picture = useMemo<RollPicture>(
    () => ({
      rows,
      notes: withDraft(notes, draft),
      chosen,
      lengthBeats,
      barBeats,
      gridBeats,
      beatPixels,
      scrollX: scroll.x,
      scrollY: scroll.y,
      harmony,
      atBeat,
      cursor,
      colour,
      ghosts,
    }),
    [rows, notes, draft, chosen, lengthBeats, barBeats, gridBeats, beatPixels, scroll, harmony, atBeat, cursor, colour, ghosts],
  );
  return {
    drawGrid: useCallback(
      (context: CanvasRenderingContext2D, width: number, height: number) => drawRoll(context, width, height, picture),
      [picture],
    ),
    drawLeft: useCallback(
      (context: CanvasRenderingContext2D, width: number, height: number) => drawNames(context, width, height, rows, scroll.y),
      [rows, scroll.y],
    ),
    drawBelow: useCallback(
      (context: CanvasRenderingContext2D, width: number, height: number) => drawVelocities(context, width, height, picture),
      [picture],
    ),
  };
}
