import { ByteWriter, chunkId, uint32be, uint32le } from './bytes';
import { parseFlacHeader } from './flac/streaminfo';
import { FormatError } from './errors';
import { id3Length } from './mp3/header';
import { withComments } from './ogg/pages';
import { parseOgg } from './ogg/parse';
import type { MediaFormat } from './sniff';
import { id3Key, tempoText, type FactsOut } from './tags/facts-out';
import { utf8Bytes, writeId3v2 } from './tags/write-id3v2';

/**
 * A file with what is known of it in the places that its format has for that; its sound, or its notes, byte for byte as they were. What the
 * vendor had put there stays, but for what is said anew.
 * WAV: `bext`, `LIST INFO`, `smpl`, `id3 `. AIFF: `NAME`, `ID3 `. FLAC and Ogg: Vorbis comments. MP3: ID3v2.4. MIDI: tempo, meter, key and title where the file
 * does not have them.
 * @returns the same bytes for a format without a place
 */
export function withFacts(bytes: Uint8Array, format: MediaFormat, facts: FactsOut): Uint8Array {
  switch (format) {
    case 'wav':
      return wavWithFacts(bytes, facts);
    case 'aiff':
      return aiffWithFacts(bytes, facts);
    case 'flac':
      return flacWithFacts(bytes, facts);
    case 'mp3':
      return new ByteWriter()
        .append(writeId3v2(facts))
        .append(bytes.subarray(id3Length(bytes)))
        .toBytes();
    case 'midi':
      return midiWithFacts(bytes, facts);
    case 'ogg':
      return oggWithFacts(bytes, facts);
  }
}

const padded = (writer: ByteWriter, id: string, body: Uint8Array, bigEndian = false): void => {
  writer.text(id);
  if (bigEndian) writer.u32be(body.length);
  else writer.u32le(body.length);
  writer.append(body);
  if (body.length % 2) writer.push(0);
};

function wavWithFacts(bytes: Uint8Array, facts: FactsOut): Uint8Array {
  // Of files beyond 4 GB the sizes lie elsewhere: they are left alone.
  if (chunkId(bytes, 0) !== 'RIFF' || uint32le(bytes, 4) === 0xffffffff) return bytes;
  const out = new ByteWriter().text('WAVE'),
    info: Record<string, Uint8Array> = {};
  let hasBroadcast = false;
  for (let at = 12; at + 8 <= bytes.length;) {
    const id = chunkId(bytes, at),
      length = uint32le(bytes, at + 4),
      body = bytes.subarray(at + 8, at + 8 + length);
    if (body.length < length) return bytes;
    if (id === 'bext') hasBroadcast = true;
    if (id === 'LIST' && chunkId(body, 0) === 'INFO') readInfo(body, info);
    else if (id !== 'smpl' && id !== 'id3 ' && id !== 'ID3 ') padded(out, id, body);
    else if (id === 'smpl' && facts.loop === null) padded(out, id, body);
    at += 8 + length + (length % 2);
  }
  Object.assign(info, { INAM: zeroEnded(facts.title), ICMT: zeroEnded(facts.comment) });
  if (facts.genre) info.IGNR = zeroEnded(facts.genre);
  if (facts.author) info.IART = zeroEnded(facts.author);
  const list = new ByteWriter().text('INFO');
  for (const [id, body] of Object.entries(info)) padded(list, id, body);
  // What a recorder wrote of itself is the recording's own.
  if (!hasBroadcast) padded(out, 'bext', broadcastChunk(facts));
  padded(out, 'LIST', list.toBytes());
  if (facts.loop) padded(out, 'smpl', samplerChunk(facts.loop, rateOf(bytes)));
  padded(out, 'id3 ', writeId3v2(facts));
  const body = out.toBytes();
  return new ByteWriter().text('RIFF').u32le(body.length).append(body).toBytes();
}

/** The place of each field, and how long all of them are without a coding history (EBU Tech 3285, version 1). */
const broadcast = { description: 0, originator: 256, version: 346, bytes: 602 } as const;

/** Title and comment, as a broadcaster's programs show them: single letters of ASCII, as the standard has it. */
function broadcastChunk({ title, comment, author }: FactsOut): Uint8Array {
  const out = new Uint8Array(broadcast.bytes),
    put = (text: string, at: number, most: number) =>
      [...text.normalize('NFKD').replace(/[\u0300-\u036f]/g, '')].slice(0, most).forEach((letter, k) => {
        const code = letter.charCodeAt(0);
        out[at + k] = code < 128 ? code : 0x3f;
      });
  put([title, comment].filter(Boolean).join('; '), broadcast.description, 256);
  put(author || 'Garnetfinch', broadcast.originator, 32);
  out[broadcast.version] = 1;
  return out;
}

/** Texts of `LIST INFO` are of single bytes by common practice; what needs more stands in the ID3 chunk as well. */
const zeroEnded = (text: string): Uint8Array => Uint8Array.from([...utf8Bytes(text), 0]);

function readInfo(body: Uint8Array, info: Record<string, Uint8Array>): void {
  for (let at = 4; at + 8 <= body.length;) {
    const length = uint32le(body, at + 4);
    info[chunkId(body, at)] = body.subarray(at + 8, at + 8 + length);
    at += 8 + length + (length % 2);
  }
}

function rateOf(bytes: Uint8Array): number {
  for (let at = 12; at + 16 <= bytes.length;) {
    if (chunkId(bytes, at) === 'fmt ') return uint32le(bytes, at + 12);
    const length = uint32le(bytes, at + 4);
    at += 8 + length + (length % 2);
  }
  return 44100;
}

/** One loop that goes on for ever; the last frame is counted in (New Multimedia Data Types, 1994). */
function samplerChunk(
  { startSeconds, endSeconds }: { readonly startSeconds: number; readonly endSeconds: number },
  rateHz: number,
): Uint8Array {
  const writer = new ByteWriter(),
    startFrame = Math.round(startSeconds * rateHz),
    endFrame = Math.max(startFrame, Math.round(endSeconds * rateHz) - 1);
  for (const value of [0, 0, Math.round(1e9 / rateHz), 60, 0, 0, 0, 1, 0, 0, 0, startFrame, endFrame, 0, 0]) writer.u32le(value);
  return writer.toBytes();
}

function aiffWithFacts(bytes: Uint8Array, facts: FactsOut): Uint8Array {
  const out = new ByteWriter().append(bytes.subarray(8, 12));
  for (let at = 12; at + 8 <= bytes.length;) {
    const id = chunkId(bytes, at),
      length = uint32be(bytes, at + 4),
      body = bytes.subarray(at + 8, at + 8 + length);
    if (body.length < length) return bytes;
    if (id !== 'NAME' && id !== 'ID3 ') padded(out, id, body, true);
    at += 8 + length + (length % 2);
  }
  padded(out, 'NAME', Uint8Array.from(utf8Bytes(facts.title)), true);
  padded(out, 'ID3 ', writeId3v2(facts), true);
  const body = out.toBytes();
  return new ByteWriter().text('FORM').u32be(body.length).append(body).toBytes();
}

/** The block of Vorbis comments written anew, all others and the frames as they were (RFC 9639, 8.1 and 8.6). */
function flacWithFacts(bytes: Uint8Array, facts: FactsOut): Uint8Array {
  const { comments, framesFrom } = parseFlacHeader(bytes),
    start = chunkId(bytes, 0) === 'fLaC' ? 0 : id3Length(bytes),
    said = saidInComments(comments, facts);
  const blocks: { type: number; body: Uint8Array }[] = [];
  for (let at = start + 4; at + 4 <= framesFrom;) {
    const length = (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3],
      type = bytes[at] & 0x7f;
    // Old comments are said anew, and padding is room for nothing now.
    if (type !== 4 && type !== 1) blocks.push({ type, body: bytes.subarray(at + 4, at + 4 + length) });
    at += 4 + length;
  }
  blocks.splice(1, 0, { type: 4, body: vorbisComments(said) });
  const out = new ByteWriter().text('fLaC');
  blocks.forEach(({ type, body }, k) => {
    out
      .push(type | (k === blocks.length - 1 ? 0x80 : 0), (body.length >> 16) & 255, (body.length >> 8) & 255, body.length & 255)
      .append(body);
  });
  return out.append(bytes.subarray(framesFrom)).toBytes();
}

/** Comments as they were, with what is known in the places that common practice has for it. */
function saidInComments(comments: Readonly<Record<string, string>>, facts: FactsOut): Record<string, string> {
  const said = { ...comments };
  said.TITLE = facts.title;
  if (facts.tempoBpm !== null) said.BPM = tempoText(facts.tempoBpm);
  if (facts.key !== null) said.INITIALKEY = id3Key(facts.key);
  if (facts.genre) said.GENRE = facts.genre;
  if (facts.author) said.ARTIST = facts.author;
  if (facts.comment) said.COMMENT = facts.comment;
  if (facts.confirmed.length) said.CONFIRMED = facts.confirmed.join(',');
  return said;
}

function oggWithFacts(bytes: Uint8Array, facts: FactsOut): Uint8Array {
  try {
    return withComments(bytes, vorbisComments(saidInComments(parseOgg(bytes).comments, facts))) ?? bytes;
  } catch (error) {
    if (error instanceof FormatError) return bytes;
    throw error;
  }
}

function vorbisComments(said: Readonly<Record<string, string>>): Uint8Array {
  const writer = new ByteWriter(),
    text = (value: string) => {
      const body = utf8Bytes(value);
      writer.u32le(body.length).append(Uint8Array.from(body));
    };
  text('Garnetfinch');
  writer.u32le(Object.keys(said).length);
  for (const [name, value] of Object.entries(said)) text(`${name}=${value}`);
  return writer.toBytes();
}

/** Meta events in front of the first track for what the file itself does not say (RP-001): its own stay the first word. */
function midiWithFacts(bytes: Uint8Array, { title, tempoBpm, key }: FactsOut): Uint8Array {
  const trackAt = 8 + uint32be(bytes, 4);
  if (chunkId(bytes, trackAt) !== 'MTrk') return bytes;
  const length = uint32be(bytes, trackAt + 4),
    track = bytes.subarray(trackAt + 8, trackAt + 8 + length),
    has = (type: number) => hasMeta(track, type),
    name = utf8Bytes(title).slice(0, 120),
    events: number[] = [];
  if (!has(0x03)) events.push(0, 0xff, 0x03, name.length, ...name);
  if (!has(0x51) && tempoBpm !== null) {
    const us = Math.round(60_000_000 / tempoBpm);
    events.push(0, 0xff, 0x51, 3, us >> 16, (us >> 8) & 255, us & 255);
  }
  if (!has(0x59) && key !== null) events.push(0, 0xff, 0x59, 2, sharpsOf(key) & 255, key.mode === 'minor' ? 1 : 0);
  if (events.length === 0) return bytes;
  return new ByteWriter()
    .append(bytes.subarray(0, trackAt + 4))
    .u32be(length + events.length)
    .append(Uint8Array.from(events))
    .append(bytes.subarray(trackAt + 8))
    .toBytes();
}

/** Sharps of a key's signature; flats below 0. */
function sharpsOf({ tonic, mode }: { readonly tonic: number; readonly mode: 'major' | 'minor' }): number {
  const fifths = ((tonic + (mode === 'minor' ? 3 : 0)) * 7) % 12;
  return fifths > 6 ? fifths - 12 : fifths;
}

/** Whether a track's bytes hold a meta event of a type; a chance likeness in other data counts as one, and then nothing is added. */
function hasMeta(track: Uint8Array, type: number): boolean {
  for (let at = 0; at + 1 < track.length; at++) if (track[at] === 0xff && track[at + 1] === type) return true;
  return false;
}
