import { ByteWriter } from '../bytes';
import type { Note } from './parse';

export interface MidiDraft {
  readonly notes: readonly Note[];
  readonly lengthBeats: number;
  readonly tempoBpm?: number;
  readonly meter?: string;
  readonly keySignature?: { readonly sharps: number; readonly minor: boolean };
  readonly program?: number;
  readonly name?: string;
}

const ticksPerBeat = 480;

/** A Standard MIDI File of format 0 (MIDI Association RP-001), 480 ticks a beat. */
export function writeSmf(draft: MidiDraft): Uint8Array {
  const events: { tick: number; order: number; bytes: number[] }[] = [];
  const meta = (type: number, bytes: number[]) => events.push({ tick: 0, order: 0, bytes: [0xff, type, bytes.length, ...bytes] });
  if (draft.name)
    meta(
      0x03,
      [...draft.name].map((letter) => letter.charCodeAt(0)),
    );
  if (draft.tempoBpm) {
    const us = Math.round(60_000_000 / draft.tempoBpm);
    meta(0x51, [us >> 16, (us >> 8) & 255, us & 255]);
  }
  if (draft.meter) {
    const [top, bottom] = draft.meter.split('/').map(Number);
    meta(0x58, [top, Math.log2(bottom), 24, 8]);
  }
  if (draft.keySignature) meta(0x59, [draft.keySignature.sharps & 255, draft.keySignature.minor ? 1 : 0]);
  const channel = draft.notes[0]?.channel ?? 0;
  if (draft.program !== undefined) events.push({ tick: 0, order: 1, bytes: [0xc0 | channel, draft.program] });
  for (const note of draft.notes) {
    const start = Math.round(note.startBeat * ticksPerBeat);
    const end = Math.max(start + 1, Math.round((note.startBeat + note.lengthBeats) * ticksPerBeat));
    events.push({ tick: start, order: 3, bytes: [0x90 | note.channel, note.pitch, note.velocity] });
    events.push({ tick: end, order: 2, bytes: [0x80 | note.channel, note.pitch, 0] });
  }
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  const track = new ByteWriter();
  let tick = 0;
  for (const event of events) {
    writeVariable(track, event.tick - tick);
    track.push(...event.bytes);
    tick = event.tick;
  }
  writeVariable(track, Math.max(0, Math.round(draft.lengthBeats * ticksPerBeat) - tick));
  track.push(0xff, 0x2f, 0);
  return new ByteWriter()
    .text('MThd')
    .u32be(6)
    .u16be(0)
    .u16be(1)
    .u16be(ticksPerBeat)
    .text('MTrk')
    .u32be(track.length)
    .append(track.toBytes())
    .toBytes();
}

function writeVariable(writer: ByteWriter, value: number): void {
  const bytes = [value & 0x7f];
  for (let rest = value >> 7; rest > 0; rest >>= 7) bytes.unshift((rest & 0x7f) | 0x80);
  writer.push(...bytes);
}
