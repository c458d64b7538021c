import { stemOf } from './fields';
import { fold } from './fold';
import { allInstruments, instrumentById, type Instrument } from '../theory/instruments';
import { parseKey, type Key } from '../theory/key';
import type { LoopKind } from '../analysis/attributes/loop-kinds';

/** What a file's or folder's name says; null where it is silent. */
export interface NameReading {
  readonly tempoBpm: number | null;
  /** The number stood beside the word "bpm": much less likely to be a catalogue number. */
  readonly tempoIsMarked: boolean;
  /** Further numbers that could be the tempo as well. */
  readonly otherTempos: readonly number[];
  readonly key: Key | null;
  /** Written with its mode; a letter by itself leaves the mode open, and may mean something else. */
  readonly keyIsMarked: boolean;
  /** With a sharp or a flat, which no letter has that counts variations. */
  readonly keyIsAltered: boolean;
  readonly meter: '3/4' | '6/8' | null;
  readonly bars: number | null;
  readonly kind: LoopKind | null;
  readonly instrument: Instrument | null;
  /**
   * How it is called: by a word of its own, by one that others of its family are called by too (any guitar is a guitar), or by one that as often
   * means something else.
   */
  readonly instrumentWord: InstrumentWord | null;
}

export type InstrumentWord = 'own' | 'loose' | 'hint';

/** `Kick_04-(Dry)` → `kick 04 dry`; words in capitals and camel case are parted. */
export function nameWords(name: string): string {
  return name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/(?<!\d)\.|\.(?!\d)/g, ' ') // a decimal point between digits stays
    .replace(/[_\-(),[\]{}+&/\\]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}

const kindWords: readonly (readonly [LoopKind, RegExp])[] = [
  ['full-mix', /\b(full ?mix|mixdown|full track|demo mix|full song)\b/],
  ['one-shot', /\b(one ?shots?|oneshots?|single hits?|hits?|shots?|stab|impact)\b/],
  ['phrase', /\b(phrases?|riser|uplifter|downlifter|transition|fx|swell|acapella)\b/],
  ['loop', /\b(loops?|lp|grooves?|beats?|breaks?)\b/],
];

/** Reads one name without its extension. Source of the words: common practice of vendors, from memory. */
export function readName(name: string): NameReading {
  const words = nameWords(name);
  const lower = words.toLowerCase();
  const bars = /\b(\d{1,2}) ?bars?\b/.exec(lower);
  return {
    ...readTempo(lower),
    ...readKey(words, name),
    meter: /\b(waltz|3 ?4 time|three four)\b/.test(lower) ? '3/4' : /\b(6 ?8 time|six eight)\b/.test(lower) ? '6/8' : null,
    bars: bars && Number(bars[1]) >= 1 && Number(bars[1]) <= 32 ? Number(bars[1]) : null,
    kind: kindWords.find(([, pattern]) => pattern.test(lower))?.[0] ?? null,
    ...readInstrument(fold(words)),
  };
}

/** What a mix and drums are called when nothing else is said; beside another word it says how that is played. */
const hintWords: readonly (readonly [id: string, words: RegExp])[] = [
  ['full-mix', /\b(full|mix)\b/],
  ['kit', /\bgroove\b/],
];

function readInstrument(lower: string): Pick<NameReading, 'instrument' | 'instrumentWord'> {
  const own = allInstruments().find(({ words }) => words.test(lower));
  if (own) return { instrument: own, instrumentWord: 'own' };
  const loose = allInstruments().find(({ looseWords }) => looseWords?.test(lower));
  if (loose) return { instrument: loose, instrumentWord: 'loose' };
  const hint = hintWords.find(([, words]) => words.test(lower));
  return hint ? { instrument: instrumentById(hint[0]), instrumentWord: 'hint' } : { instrument: null, instrumentWord: null };
}

/** A file's name without the pack's own name in front of it, however its words are parted there. */
export function withoutPack(name: string, pack: string): string {
  const letters = (text: string): string => text.toLowerCase().replace(/[^a-z0-9]/g, ''),
    wanted = letters(pack);
  if (wanted.length < 3) return name;
  for (let end = 1; end <= name.length; end++) {
    const so = letters(name.slice(0, end));
    if (!wanted.startsWith(so)) return name;
    // A catalogue number may follow at once; a letter may not: then it is another word that only begins like it.
    if (so === wanted) return /^[a-z]/.test(name.slice(end)) ? name : name.slice(end).replace(/^\d*[\s_\-.]*/, '') || name;
  }
  return name;
}

function readTempo(lower: string): Pick<NameReading, 'tempoBpm' | 'tempoIsMarked' | 'otherTempos'> {
  const marked = /\b(\d{2,3}(?:\.\d{1,3})?) ?bpm\b|\bbpm ?(\d{2,3}(?:\.\d{1,3})?)\b/.exec(lower);
  if (marked) {
    const value = Number(marked[1] ?? marked[2]);
    // Above 260 it can only be counted double; what is marked is read all the same.
    if (value >= 20 && value <= 400) return { tempoBpm: value, tempoIsMarked: true, otherTempos: [] };
  }
  // Two or three digits by themselves, in the range of tempos, not behind "vol", "no" or the like and not an 808/909 kind of number.
  const numbers = [
    ...lower.matchAll(/(?:\b(vol|volume|no|nr|take|pt|part|mk|v) ?)?(?<![\d#.])\b(\d{2,3}(?:\.\d{1,2})?)\b(?! ?(?:bars?|hz|khz|bit|k\b))/g),
  ]
    .filter((match) => !match[1])
    // With a zero in front it counts.
    .filter((match) => !match[2].startsWith('0'))
    .map((match) => Number(match[2]))
    .filter((value) => value >= 60 && value <= (Number.isInteger(value) ? 190 : 260));
  // A number with decimals is no catalogue number.
  const best = numbers.findLast((value) => !Number.isInteger(value)) ?? numbers.at(-1) ?? null;
  return { tempoBpm: best, tempoIsMarked: false, otherTempos: numbers.filter((value) => value !== best) };
}

function readKey(words: string, name: string): Pick<NameReading, 'key' | 'keyIsMarked' | 'keyIsAltered'> {
  const full = /\b([A-Ga-g]) ?(#|♯|b|♭|sharp|flat)? ?(major|minor|maj|min|dorian|phrygian|lydian|mixolydian)\b/i.exec(words);
  if (full)
    return { key: parseKey(`${full[1]}${full[2] ?? ''} ${full[3].toLowerCase()}`), keyIsMarked: true, keyIsAltered: full[2] !== undefined };
  // A short form only as a word by itself, with the capital that musicians write.
  for (const word of words.split(' '))
    if (/^[A-G](#|♯|b|♭)?m$/.test(word) || /^[A-G](#|♯|b|♭)$/.test(word))
      return { key: parseKey(word), keyIsMarked: word.endsWith('m'), keyIsAltered: /[#♯b♭]/.test(word) };
  // Behind a dash at the end, or beside a tempo in brackets, a letter is meant as a key.
  const apart = / - ([A-G])$|\d ?bpm, ?([A-G])\)/i.exec(name),
    alone = apart?.[1] ?? apart?.[2];
  if (alone && alone === alone.toUpperCase()) return { key: parseKey(alone), keyIsMarked: false, keyIsAltered: false };
  // Of lone letters A to D name variations; E to G seldom do.
  const lone = words.split(' ').find((word) => /^[EFG]$/.test(word));
  return { key: lone ? parseKey(lone) : null, keyIsMarked: false, keyIsAltered: false };
}

/** A title for people from the vendor's file name: no name of the pack, no catalogue prefix, no tempo, no key, capital first. */
export function titleFromFileName(fileName: string, pack = ''): string {
  const stem = withoutPack(stemOf(fileName), pack);
  const words = nameWords(stem)
    .replace(/\b\d{2,3}(\.\d+)? ?bpm\b/gi, '')
    .replace(/\b[A-G](#|♯|b|♭)? ?(major|minor|maj|min)\b/gi, '')
    .replace(/\b[A-G](#|♯|b|♭)?m\b/g, '')
    .replace(/\b[A-G](#|♯)(?= |$)/g, '')
    .replace(/^[A-Z]{2,5}\d{0,3} (?=\S)/, '')
    .replace(/\b(?<!vol )(6\d|7\d|8\d|9\d|1[0-8]\d)\b(?=\s|$)/g, '')
    .replace(/\s+/g, ' ')
    .trim();
  // A name of nothing but separators is still a name.
  const title = [words.length >= 3 ? words : '', nameWords(stem), stem.trim(), fileName.trim()].find((each) => each !== '') ?? 'Untitled';
  return cutToLetters(title.charAt(0).toUpperCase() + title.slice(1), longestTitle);
}

const longestTitle = 300;

/** The first letters of a text; one of two halves is not cut in the middle. */
const cutToLetters = (text: string, most: number): string =>
  text.length <= most ? text : text.slice(0, most).replace(/[\ud800-\udbff]$/, '');
