import { notesOfKey } from '~core/arrangement/clash';
import { harmonyAt, type Harmonic } from '~core/arrangement/harmony/harmony';
import type { PatternNote, SoundingNote } from '~core/arrangement/pattern/pattern';
import { keyCode } from '~core/theory/key';
import { pitchClass } from '~core/units/pitch';
import { readToken } from '~/ui/theme';
import { drawnBeats, pitchAt, rowName, topOf, type RollRows } from './roll-rows';

export interface RollPicture {
  readonly rows: RollRows;
  readonly notes: readonly PatternNote[];
  readonly chosen: ReadonlySet<string>;
  readonly lengthBeats: number;
  readonly barBeats: number;
  readonly gridBeats: number;
  readonly beatPixels: number;
  readonly scrollX: number;
  readonly scrollY: number;
  /** Where in the piece the pattern begins; what holds there shows which notes belong. */
  readonly harmony: Harmonic;
  readonly atBeat: number;
  /** What is heard of the pattern over the chords, where that differs from what is written. */
  readonly ghosts: readonly SoundingNote[];
  readonly cursor: { readonly beat: number; readonly pitch: number };
  readonly colour: number;
}

/** The rows and notes of a pattern, as far as they are in view: scale and chord behind, notes by their velocity. */
export function drawRoll(context: CanvasRenderingContext2D, width: number, height: number, picture: RollPicture): void {
  const { rows, notes, chosen, lengthBeats, barBeats, gridBeats, beatPixels, scrollX, scrollY, cursor, colour } = picture,
    x = (beat: number) => beat * beatPixels - scrollX,
    end = x(lengthBeats);
  context.fillStyle = readToken('--color-base-100');
  context.fillRect(0, 0, width, height);
  const top = pitchAt(rows, scrollY),
    bottom = pitchAt(rows, scrollY + height);
  drawBelonging(context, width, picture, top, bottom);
  // Grid lines: none where they would stand closer than can be told apart.
  for (
    let beat = Math.max(0, Math.floor(scrollX / beatPixels / gridBeats) * gridBeats);
    x(beat) < Math.min(width, end + 1);
    beat += gridBeats
  ) {
    const isBar = Math.abs(beat / barBeats - Math.round(beat / barBeats)) < 1e-6,
      isBeat = Math.abs(beat - Math.round(beat)) < 1e-6;
    if (!isBeat && gridBeats * beatPixels < 6) continue;
    context.fillStyle = readToken(isBar ? '--grid-strong' : '--grid');
    context.globalAlpha = isBeat ? 1 : 0.6;
    context.fillRect(Math.round(x(beat)), 0, 1, height);
  }
  context.globalAlpha = 1;
  for (let pitch = bottom; pitch <= top; pitch++) {
    context.fillStyle = readToken('--grid');
    context.fillRect(
      0,
      topOf(rows, pitch) - scrollY + rows.height - 1,
      Math.min(width, end),
      !rows.isDrums && pitchClass(pitch) === 0 ? 1.5 : 0.5,
    );
  }
  const { ghosts, rows: lanes } = picture;
  context.strokeStyle = readToken('--color-accent');
  context.lineWidth = 1.5;
  for (const { startBeat, lengthBeats, pitch } of ghosts) {
    const left = x(startBeat);
    if (left > width || left + lengthBeats * beatPixels < 0 || pitch > top || pitch < bottom) continue;
    context.strokeRect(left + 0.5, topOf(lanes, pitch) - scrollY + 1.5, Math.max(4, lengthBeats * beatPixels - 2), lanes.height - 4);
  }
  const ink = readToken(`--track-${colour}`),
    strong = readToken('--color-base-content');
  for (const note of notes) {
    const left = x(note.startBeat),
      wide = Math.max(4, drawnBeats(rows, note) * beatPixels - 1);
    if (left > width || left + wide < 0 || note.pitch > top || note.pitch < bottom) continue;
    const y = topOf(rows, note.pitch) - scrollY + 1;
    context.globalAlpha = 0.35 + (0.65 * note.velocity) / 127;
    context.fillStyle = ink;
    context.fillRect(left, y, wide, rows.height - 3);
    context.globalAlpha = 1;
    if (chosen.has(note.id)) {
      context.strokeStyle = strong;
      context.lineWidth = 2;
      context.strokeRect(left, y, wide, rows.height - 3);
    }
  }
  if (end < width) {
    context.fillStyle = readToken('--color-base-300');
    context.globalAlpha = 0.6;
    context.fillRect(end, 0, width - end, height);
    context.globalAlpha = 1;
  }
  if (chosen.size === 0) {
    context.strokeStyle = strong;
    context.lineWidth = 1;
    context.setLineDash([3, 2]);
    context.strokeRect(
      x(cursor.beat) + 0.5,
      topOf(rows, cursor.pitch) - scrollY + 0.5,
      Math.max(6, gridBeats * beatPixels - 1),
      rows.height - 1,
    );
    context.setLineDash([]);
  }
}

/** Rows of the key lighter than the others, those of the chord marked, by stretches over which one chord holds. */
function drawBelonging(context: CanvasRenderingContext2D, width: number, picture: RollPicture, top: number, bottom: number): void {
  const { rows, lengthBeats, beatPixels, scrollX, scrollY, harmony, atBeat } = picture;
  if (rows.isDrums) return;
  const lines = [
      0,
      ...[...(harmony.chords ?? []), ...(harmony.sections ?? [])]
        .map(({ startBeat }) => startBeat - atBeat)
        .filter((beat) => beat > 0 && beat < lengthBeats),
      lengthBeats,
    ].sort((a, b) => a - b),
    outside = readToken('--color-base-200'),
    chordInk = readToken('--color-accent');
  for (let k = 0; k + 1 < lines.length; k++) {
    const { key, chord } = harmonyAt(harmony, atBeat + lines[k]),
      inKey = key ? notesOfKey(keyCode(key)) : null,
      left = lines[k] * beatPixels - scrollX,
      wide = (lines[k + 1] - lines[k]) * beatPixels;
    if (left > width || left + wide < 0) continue;
    for (let pitch = bottom; pitch <= top; pitch++) {
      const y = topOf(rows, pitch) - scrollY,
        isChord = chord?.classes.includes(pitchClass(pitch)) ?? false;
      if (isChord) {
        context.globalAlpha = 0.22;
        context.fillStyle = chordInk;
        context.fillRect(left, y, wide, rows.height);
        context.globalAlpha = 1;
      } else if (inKey && !inKey.has(pitchClass(pitch))) {
        context.fillStyle = outside;
        context.fillRect(left, y, wide, rows.height);
      }
    }
  }
}

/** The names of the rows, at the left. */
export function drawNames(context: CanvasRenderingContext2D, width: number, height: number, rows: RollRows, scrollY: number): void {
  context.fillStyle = readToken('--color-base-100');
  context.fillRect(0, 0, width, height);
  context.font = '500 11px "Inter Variable", sans-serif';
  context.textBaseline = 'middle';
  for (let pitch = pitchAt(rows, scrollY + height); pitch <= pitchAt(rows, scrollY); pitch++) {
    const y = topOf(rows, pitch) - scrollY,
      isBlack = !rows.isDrums && [1, 3, 6, 8, 10].includes(pitchClass(pitch));
    if (isBlack) {
      context.fillStyle = readToken('--color-base-300');
      context.fillRect(0, y, width, rows.height);
    }
    context.fillStyle = readToken('--color-base-content');
    if (rows.isDrums || pitchClass(pitch) === 0 || rows.height >= 16) context.fillText(rowName(rows, pitch), 5, y + rows.height / 2 + 0.5);
    context.fillStyle = readToken('--grid');
    context.fillRect(0, y + rows.height - 1, width, 0.5);
  }
}

/** How hard each note is struck, as a bar under it. */
export function drawVelocities(context: CanvasRenderingContext2D, width: number, height: number, picture: RollPicture): void {
  const { notes, chosen, beatPixels, scrollX, colour } = picture;
  context.fillStyle = readToken('--color-base-200');
  context.fillRect(0, 0, width, height);
  for (const note of notes) {
    const left = note.startBeat * beatPixels - scrollX;
    if (left < -6 || left > width) continue;
    const tall = (note.velocity / 127) * (height - 3);
    context.fillStyle = chosen.has(note.id) ? readToken('--color-base-content') : readToken(`--track-${colour}`);
    context.globalAlpha = chosen.size === 0 || chosen.has(note.id) ? 1 : 0.4;
    context.fillRect(left, height - tall, 4, tall);
  }
  context.globalAlpha = 1;
}
