import type { PlannedStretch } from '~core/arrangement/harmony/chord-plan';
import type { Pattern, SoundingNote } from '~core/arrangement/pattern/pattern';
import type { Clip } from '~core/arrangement/tree';
import { signed } from '~/ui/format';

/** A clip of notes as small bars, as they sound: high notes above, and a line where the pattern begins anew. */
export function drawNotes(
  context: CanvasRenderingContext2D,
  clip: Clip,
  pattern: Pattern,
  notes: readonly SoundingNote[],
  look: {
    readonly ink: string;
    readonly seam: string;
    readonly left: number;
    readonly right: number;
    readonly top: number;
    readonly height: number;
    readonly beatPixels: number;
  },
): void {
  const { ink, seam, left, right, top, height, beatPixels } = look,
    low = notes.reduce((least, { pitch }) => Math.min(least, pitch), 127),
    high = notes.reduce((most, { pitch }) => Math.max(most, pitch), 0),
    room = height - top - 6,
    row = Math.min(4, room / Math.max(1, high - low + 1)),
    cycle = pattern.lengthBeats * beatPixels;
  context.save();
  context.beginPath();
  context.rect(left, 0, right - left, height);
  context.clip();
  context.globalAlpha = clip.muted ? 0.35 : 1;
  context.fillStyle = ink;
  for (const { startBeat, lengthBeats, pitch } of notes) {
    const x = left + (startBeat - clip.startBeat) * beatPixels;
    if (x > right) break;
    context.fillRect(
      x,
      top + (room - row) * (high > low ? (high - pitch) / (high - low) : 0.5),
      Math.max(1.5, (pattern.isDrums ? 0.15 : lengthBeats) * beatPixels - 0.5),
      Math.max(1.5, row - 0.5),
    );
  }
  context.fillStyle = seam;
  for (let at = left + cycle - ((clip.offsetBeats * beatPixels) % cycle); cycle >= 2 && at < right; at += cycle)
    context.fillRect(Math.round(at), 4, 1, height - 8);
  context.restore();
}

/** What a clip is moved by with the chords of the piece, at each line where that changes. */
export function drawPlan(
  context: CanvasRenderingContext2D,
  plan: readonly PlannedStretch[],
  {
    fromX,
    beatPixels,
    right,
    y,
    ink,
  }: { readonly fromX: number; readonly beatPixels: number; readonly right: number; readonly y: number; readonly ink: string },
): void {
  context.font = '600 11px "Inter Variable", sans-serif';
  context.textBaseline = 'alphabetic';
  context.fillStyle = ink;
  let free = -Infinity;
  for (const { startBeat, semitones } of plan) {
    const x = startBeat * beatPixels - fromX,
      text = signed(semitones),
      width = context.measureText(text).width;
    if (x < free || x + width + 4 > right) continue;
    context.fillRect(Math.round(x), y - 12, 1, 14);
    context.fillText(text, x + 3, y);
    free = x + width + 8;
  }
}
