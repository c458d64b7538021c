import { chunkId, latin1, utf8 } from '../bytes';
import { parseId3v2 } from '../tags/id3v2';

/** What a `smpl` chunk says (New Multimedia Data Types 1994): the loop points and the pitch of the recording. */
export interface WavSampler {
  readonly unityNote: number;
  readonly loops: readonly { readonly startFrame: number; readonly endFrame: number }[];
}

/** What a `bext` chunk says (EBU Tech 3285). */
export interface WavBroadcast {
  readonly description: string;
  readonly originator: string;
  /** Year, month, day with dashes; '' where it is not told. */
  readonly date: string;
}

/** What a WAV file says beside its sound. */
export interface WavWords {
  readonly sampler: WavSampler | null;
  /** `LIST INFO` texts by chunk id: INAM, ICMT, IGNR … */
  readonly info: Readonly<Record<string, string>>;
  /** Text frames of an `id3 ` chunk by frame id. */
  readonly id3: Readonly<Record<string, string>>;
  readonly broadcast: WavBroadcast | null;
  /** The pitch of the recording by an `inst` chunk (Multimedia Data Standards Update, 1994); null without one. */
  readonly instrumentNote: number | null;
  /** Frames that a `cue ` chunk marks, in order. */
  readonly cueFrames: readonly number[];
  /** Texts of an `iXML` chunk by element, in capitals: PROJECT, SCENE, TAKE, NOTE … */
  readonly ixml: Readonly<Record<string, string>>;
}
type Draft = { -readonly [Name in keyof WavWords]: WavWords[Name] };

/** Chunks that say something beside the sound. */
export const chunksOfWords = ['smpl', 'LIST', 'bext', 'inst', 'cue ', 'iXML', 'id3 ', 'ID3 '] as const;

/** Nothing said yet. */
export const noWords = (): Draft => ({ sampler: null, info: {}, id3: {}, broadcast: null, instrumentNote: null, cueFrames: [], ixml: {} });

const mostCues = 10_000;

/** Adds to `said` what one chunk says; of a damaged one what can be read. @param length what the chunk promises, of which `bytes` may be less */
export function readWords(id: string, bytes: Uint8Array, view: DataView, length: number, said: Draft): void {
  if (id === 'smpl' && bytes.length >= length) said.sampler = parseSampler(view, 0, length);
  else if (id === 'LIST' && chunkId(bytes, 0) === 'INFO') {
    const info = { ...said.info };
    readInfo(bytes, view, 4, bytes.length, info);
    said.info = info;
  } else if (id === 'bext' && bytes.length >= 602)
    said.broadcast = { description: text(bytes, 0, 256), originator: text(bytes, 256, 32), date: text(bytes, 320, 10).replace(/\D/g, '-') };
  else if (id === 'inst' && bytes.length >= 7 && bytes[0] <= 127) said.instrumentNote = bytes[0];
  else if (id === 'cue ' && bytes.length >= 4) {
    const count = Math.min(view.getUint32(0, true), mostCues, Math.floor((bytes.length - 4) / 24));
    said.cueFrames = Array.from({ length: count }, (_, k) => view.getUint32(4 + k * 24 + 20, true)).sort((a, b) => a - b);
  } else if (id === 'iXML') said.ixml = elements(utf8(bytes, 0, bytes.length));
  else if (id === 'id3 ' || id === 'ID3 ') said.id3 = parseId3v2(bytes);
}

const text = (bytes: Uint8Array, at: number, length: number): string => latin1(bytes, at, length).replace(/\0.*$/s, '').trim();

const longestElement = 500;
const entities: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/** Elements of an XML text that hold nothing but text; the first of a name counts. Enough for iXML, whose facts are all such. */
function elements(xml: string): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [, name, value] of xml.matchAll(/<([A-Za-z_][\w-]{0,40})>([^<]{1,2000})<\//g)) {
    const key = name.toUpperCase(),
      plain = value.replace(/&(\w+);/g, (whole, entity: string) => entities[entity] ?? whole).trim();
    if (plain && !Object.hasOwn(found, key)) found[key] = plain.slice(0, longestElement);
  }
  return found;
}

function parseSampler(view: DataView, at: number, length: number): WavSampler | null {
  if (length < 36) return null;
  const count = view.getUint32(at + 28, true);
  const loops = [];
  for (let index = 0; index < count && 36 + (index + 1) * 24 <= length; index++) {
    const entry = at + 36 + index * 24;
    loops.push({ startFrame: view.getUint32(entry + 8, true), endFrame: view.getUint32(entry + 12, true) });
  }
  return { unityNote: view.getUint32(at + 12, true), loops };
}

function readInfo(bytes: Uint8Array, view: DataView, from: number, end: number, into: Record<string, string>): void {
  for (let at = from; at + 8 <= end;) {
    const length = view.getUint32(at + 4, true);
    into[chunkId(bytes, at)] = latin1(bytes, at + 8, length)
      .replace(/\0.*$/s, '')
      .trim();
    at += 8 + length + (length % 2);
  }
}
