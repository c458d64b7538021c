import { chunkId, uint32be, utf8 } from '../bytes';
import { FormatError } from '../errors';

/** A note in beats (quarter notes) from the start of the file. */
export interface Note {
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** MIDI note number, 60 = middle C. */
  readonly pitch: number;
  /** 1–127. */
  readonly velocity: number;
  readonly channel: number;
}

/** Quarters a minute of a file that says nothing (MIDI Association RP-001). */
export const unsaidTempoBpm = 120;

export interface MidiFile {
  readonly format: 0 | 1;
  readonly ticksPerBeat: number;
  readonly notes: readonly Note[];
  /** Meta event 51, null where the file says nothing. */
  readonly tempoBpm: number | null;
  readonly tempoChanges: number;
  /** Meta event 58. */
  readonly meter: string | null;
  /** Meta event 59: sharps (negative: flats) and mode. */
  readonly keySignature: { readonly sharps: number; readonly minor: boolean } | null;
  /** Program by channel, as set first. */
  readonly programs: Readonly<Record<number, number>>;
  readonly trackNames: readonly string[];
  readonly lengthBeats: number;
}

/** Notes of one pitch that have begun, in order; those before `next` have ended. */
interface OpenNotes {
  readonly list: { readonly startTick: number; readonly velocity: number }[];
  next: number;
}

/** What holds more notes, or lasts longer, is no loop. */
const mostNotes = 100_000,
  mostBeats = 20_000,
  // What three bytes of microseconds can say at the most.
  slowestTempoBpm = 3.5,
  fastestTempoBpm = 1000;

interface State {
  notes: Note[];
  open: Map<number, OpenNotes>;
  openCount: number;
  tempoBpm: number | null;
  tempoChanges: number;
  meter: string | null;
  keySignature: MidiFile['keySignature'];
  programs: Record<number, number>;
  names: string[];
  lastTick: number;
}

/**
 * Standard MIDI Files of format 0 and 1. Source: MIDI Association RP-001.
 * @throws {FormatError} foreign, unsupported (format 2, SMPTE time), truncated, empty (no notes)
 */
export function parseSmf(bytes: Uint8Array): MidiFile {
  if (chunkId(bytes, 0) !== 'MThd' || bytes.length < 14)
    throw new FormatError('foreign', 'This is not a MIDI file, although its name says so.');
  const format = (bytes[8] << 8) | bytes[9];
  const division = (bytes[12] << 8) | bytes[13];
  if (format > 1) throw new FormatError('unsupported', 'MIDI files of format 2 are not supported; formats 0 and 1 are.');
  if (division & 0x8000 || division === 0) throw new FormatError('unsupported', 'This MIDI file counts in film time, not in beats.');
  const state: State = {
    notes: [],
    open: new Map(),
    openCount: 0,
    tempoBpm: null,
    tempoChanges: 0,
    meter: null,
    keySignature: null,
    programs: {},
    names: [],
    lastTick: 0,
  };
  for (let at = 8 + uint32be(bytes, 4); at + 8 <= bytes.length;) {
    const length = uint32be(bytes, at + 4);
    if (at + 8 + length > bytes.length) throw new FormatError('truncated', 'The MIDI file is cut off in the middle of a track.');
    if (chunkId(bytes, at) === 'MTrk') parseTrack(bytes, at + 8, at + 8 + length, division, state);
    at += 8 + length;
  }
  if (state.notes.length === 0) throw new FormatError('empty', 'The MIDI file holds no notes.');
  if (state.lastTick / division > mostBeats)
    throw new FormatError('too-long', `The MIDI file lasts ${Math.round(state.lastTick / division)} beats; up to ${mostBeats} are read.`);
  const notes = state.notes.sort((a, b) => a.startBeat - b.startBeat || a.pitch - b.pitch);
  return {
    format: format as 0 | 1,
    ticksPerBeat: division,
    notes,
    tempoBpm: state.tempoBpm,
    tempoChanges: state.tempoChanges,
    meter: state.meter,
    keySignature: state.keySignature,
    programs: state.programs,
    trackNames: state.names,
    lengthBeats: state.lastTick / division,
  };
}

function parseTrack(bytes: Uint8Array, from: number, end: number, division: number, state: State): void {
  let at = from;
  let tick = 0;
  let status = 0;
  const readLength = (): number => {
    let value = 0;
    for (let count = 0; count < 4 && at < end; count++) {
      const byte = bytes[at++];
      value = (value << 7) | (byte & 0x7f);
      if (!(byte & 0x80)) break;
    }
    return value;
  };
  state.open.clear();
  while (at < end) {
    tick += readLength();
    if (bytes[at] & 0x80) status = bytes[at++];
    if (status === 0xff) {
      const type = bytes[at++];
      const length = readLength();
      readMeta(bytes, at, type, length, state);
      at += length;
      if (type === 0x2f) break;
    } else if (status === 0xf0 || status === 0xf7) at += readLength();
    else if (status >= 0x80) {
      const kind = status & 0xf0;
      const channel = status & 0x0f;
      const first = bytes[at++];
      const second = kind === 0xc0 || kind === 0xd0 ? 0 : bytes[at++];
      if (kind === 0x90 && second > 0) openNote(state, channel, first, second, tick);
      else if (kind === 0x80 || kind === 0x90) closeNote(state, channel, first, tick, division);
      else if (kind === 0xc0) state.programs[channel] ??= first;
    } else throw new FormatError('broken', 'The MIDI file holds data where an event should be.');
  }
  for (const [key, opened] of state.open) while (opened.next < opened.list.length) closeNote(state, key >> 7, key & 127, tick, division);
  state.lastTick = Math.max(state.lastTick, tick);
}

function openNote(state: State, channel: number, pitch: number, velocity: number, tick: number): void {
  const key = (channel << 7) | pitch;
  let opened = state.open.get(key);
  if (!opened) state.open.set(key, (opened = { list: [], next: 0 }));
  opened.list.push({ startTick: tick, velocity });
  if (++state.openCount > mostNotes)
    throw new FormatError('too-long', `The MIDI file holds more than ${mostNotes.toLocaleString('en')} notes, which is no loop.`);
}

function closeNote(state: State, channel: number, pitch: number, tick: number, division: number): void {
  const opened = state.open.get((channel << 7) | pitch),
    first = opened?.list[opened.next];
  if (!opened || !first) return;
  opened.next++;
  state.notes.push({
    startBeat: first.startTick / division,
    lengthBeats: Math.max(1 / division, (tick - first.startTick) / division),
    pitch,
    velocity: first.velocity,
    channel,
  });
}

function readMeta(bytes: Uint8Array, at: number, type: number, length: number, state: State): void {
  if (type === 0x51 && length === 3) {
    const microsecondsPerBeat = (bytes[at] << 16) | (bytes[at + 1] << 8) | bytes[at + 2];
    state.tempoChanges++;
    const tempoBpm = plainTempo(microsecondsPerBeat);
    // What nobody plays is damage, and the file plays at what one without a tempo does.
    if (tempoBpm >= slowestTempoBpm && tempoBpm <= fastestTempoBpm) state.tempoBpm ??= tempoBpm;
  } else if (type === 0x58 && length >= 2) state.meter ??= `${bytes[at]}/${2 ** bytes[at + 1]}`;
  else if (type === 0x59 && length === 2) state.keySignature ??= { sharps: (bytes[at] << 24) >> 24, minor: bytes[at + 1] === 1 };
  else if (type === 0x03) state.names.push(utf8(bytes, at, length).trim());
}

/**
 * The plainest tempo that a file's whole microseconds a quarter may have been written for: 545,455 stands for 110, not for 109.9999. A writer
 * may have rounded either way.
 */
function plainTempo(microsecondsPerBeat: number): number {
  if (microsecondsPerBeat === 0) return Infinity;
  const exact = 60_000_000 / microsecondsPerBeat;
  for (const digits of [0, 1, 2, 3]) {
    const plain = Number(exact.toFixed(digits));
    if (plain > 0 && Math.abs(60_000_000 / plain - microsecondsPerBeat) < 1) return plain;
  }
  return exact;
}
