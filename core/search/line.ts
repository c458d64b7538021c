import { keyName, parseKey, type Key } from '../theory/key';
import { licenceUseWords, type LicenceUse } from '../library/licence';
import { fold } from '../names/fold';

/** How a loop's key stands to the project's, once it is moved by no more than is said. */
export const keyRelations = ['same', 'relative', 'parallel', 'fifth'] as const;
export type KeyRelation = (typeof keyRelations)[number];

/** What is asked for beside words. Tempos in beats a minute, bars as numbers. */
export type PartMeaning =
  | { readonly kind: 'tempo'; readonly fromBpm: number; readonly toBpm: number }
  /** Stretched by so much at most to belong to the project, read half or double where that is less. */
  | { readonly kind: 'within'; readonly percent: number }
  | { readonly kind: 'key'; readonly key: Key }
  | { readonly kind: 'key-relation'; readonly relation: KeyRelation }
  /** Moved by so many semitones at most; what has no pitch always. */
  | { readonly kind: 'shift'; readonly semitones: number }
  | { readonly kind: 'bars'; readonly from: number; readonly to: number }
  | { readonly kind: 'is'; readonly what: IsWord }
  | { readonly kind: 'by'; readonly name: string }
  | { readonly kind: 'added'; readonly days: number }
  /** Of a field, that which is called so. */
  | { readonly kind: 'named'; readonly field: NamedField; readonly name: string }
  /** With so many stars at least from who asks; 0: with none. */
  | { readonly kind: 'rated'; readonly stars: number }
  | { readonly kind: 'licence'; readonly use: LicenceUse }
  | { readonly kind: 'word'; readonly word: string };

/** Fields of which a part may name what is wanted, with what stands between field and name in words. */
const namedFields = {
  genre: 'genre',
  character: 'sounds',
  instrument: 'instrument',
  family: 'family',
  role: 'role',
  pack: 'pack',
  vendor: 'vendor',
  set: 'set',
  meter: 'meter',
  tag: 'tag',
} as const;
export type NamedField = keyof typeof namedFields;

const isWords = {
  loop: 'loops',
  'one-shot': 'one-shots',
  phrase: 'phrases',
  mix: 'full mixes',
  audio: 'audio',
  notes: 'notes',
  unpitched: 'unpitched',
  favourite: 'my favourites',
  doubtful: 'with something in doubt',
  unused: 'not used in this project',
  used: 'used in this project',
} as const;
export type IsWord = keyof typeof isWords;

/** A part of the line: what it means, whether it is meant the other way round, and where it stands. */
export interface LinePart {
  readonly meaning: PartMeaning;
  readonly isNot: boolean;
  readonly text: string;
  readonly start: number;
  readonly end: number;
}

export interface ReadLine {
  readonly parts: readonly LinePart[];
}

interface Rule {
  readonly pattern: RegExp;
  readonly read: (match: RegExpExecArray) => PartMeaning | null;
}

const inRange = (value: number, from: number, to: number): boolean => value >= from && value <= to;
const unitsInDays: Readonly<Record<string, number>> = {
  d: 1,
  day: 1,
  days: 1,
  w: 7,
  week: 7,
  weeks: 7,
  m: 31,
  month: 31,
  months: 31,
  y: 366,
  year: 366,
};

/** The forms of structure, tried in this order on what stands between spaces; what none of them reads is a word. */
const rules: readonly Rule[] = [
  {
    pattern: /^(\d{2,3}(?:\.\d+)?)(?:-|–|\.\.)(\d{2,3}(?:\.\d+)?)(?: ?bpm)?$/i,
    read: ([, from, to]) =>
      inRange(Number(from), 20, 400) && Number(to) > Number(from) ? { kind: 'tempo', fromBpm: Number(from), toBpm: Number(to) } : null,
  },
  {
    pattern: /^(\d{2,3}(?:\.\d+)?) ?bpm$/i,
    read: ([, at]) => (inRange(Number(at), 20, 400) ? { kind: 'tempo', fromBpm: Number(at) - 0.5, toBpm: Number(at) + 0.5 } : null),
  },
  {
    pattern: /^(?:±|\+-|within ?)(\d{1,2}(?:\.\d+)?) ?%$/i,
    read: ([, percent]) => (Number(percent) <= 60 ? { kind: 'within', percent: Number(percent) } : null),
  },
  {
    pattern: /^(?:±|\+-|within ?)(\d{1,2}) ?(?:st|semitones?)$/i,
    read: ([, semitones]) => (Number(semitones) <= 6 ? { kind: 'shift', semitones: Number(semitones) } : null),
  },
  {
    pattern: /^key:(same|relative|parallel|fifth)$/i,
    read: ([, relation]) => ({ kind: 'key-relation', relation: relation.toLowerCase() as KeyRelation }),
  },
  {
    pattern: /^key:(\S+)$/i,
    read: ([, text]) => {
      const key = parseKey(text.replace(/min$/i, ' minor').replace(/maj$/i, ' major'));
      return key && { kind: 'key', key };
    },
  },
  {
    // By itself only what can be no word: with its mode, or a sharp or flat.
    pattern: /^([A-G](?:#|♯|b|♭)?(?:m|min|maj)|[A-G](?:#|♯|♭))$/,
    read: ([, text]) => {
      const key = parseKey(text.replace(/min$/, ' minor').replace(/maj$/, ' major'));
      return key && { kind: 'key', key };
    },
  },
  {
    pattern: /^(\d{1,2})(?:(?:-|–)(\d{1,2}))? ?bars?$/i,
    read: ([, from, to = from]) =>
      inRange(Number(from), 1, 64) && Number(to) >= Number(from) ? { kind: 'bars', from: Number(from), to: Number(to) } : null,
  },
  {
    pattern: /^is:([a-z-]+?)s?$/i,
    read: ([, what]) => {
      const found = Object.keys(isWords).find((each) => each === what.toLowerCase() || each === `${what.toLowerCase()}s`);
      return found ? { kind: 'is', what: found as IsWord } : null;
    },
  },
  { pattern: /^by:(\S.*)$/i, read: ([, name]) => ({ kind: 'by', name: name.slice(0, 60) }) },
  {
    pattern: /^added:(\d{1,3}) ?(d|days?|w|weeks?|m|months?|y|years?)$/i,
    read: ([, count, unit]) => ({ kind: 'added', days: Number(count) * (unitsInDays[unit.toLowerCase()] ?? 366) }),
  },
  {
    pattern: /^([a-z]+):(\S.*)$/i,
    read: ([, field, name]) =>
      Object.hasOwn(namedFields, field.toLowerCase()) && wordsIn(name).length > 0
        ? { kind: 'named', field: field.toLowerCase() as NamedField, name: name.slice(0, 60) }
        : null,
  },
  {
    pattern: /^rated:(?:([1-5])\+?|none)$/i,
    read: ([, stars]) => ({ kind: 'rated', stars: Number(stars ?? 0) }),
  },
  {
    pattern: /^licen[cs]e:(commercial|uncredited|changed)$/i,
    read: ([, use]) => ({ kind: 'licence', use: use.toLowerCase() as LicenceUse }),
  },
  { pattern: /^added:(today|yesterday)$/i, read: ([, day]) => ({ kind: 'added', days: day.toLowerCase() === 'today' ? 1 : 2 }) },
];

/** What stands between spaces, taken together where quotes or a form want it: `by:"Teo Brandvik"`, `4 bars`, `within 6 %`. */
const pieces =
  /[-!]?(?:[a-z]+:"[^"]*"|"[^"]*"|\d{1,2}(?:[-–]\d{1,2})? bars?\b|within \d[\d.]* ?(?:%|st\b|semitones?\b)|[±]\d[\d.]* (?:%|st\b)|\S+)/gi;

/**
 * Reads a line of words and structure. @param text as it was typed; a minus in front means *not*
 * @example readLine('shaker 118-126 -is:notes').parts.map(({ meaning }) => meaning.kind) // => ['word', 'tempo', 'is']
 */
export function readLine(text: string): ReadLine {
  const parts: LinePart[] = [];
  for (const match of text.matchAll(pieces)) {
    const whole = match[0],
      isNot = /^[-!]./.test(whole),
      body = (isNot ? whole.slice(1) : whole).replaceAll('"', ''),
      place = { isNot, text: whole, start: match.index, end: match.index + whole.length },
      found = meaningOf(body);
    if (found) parts.push({ ...place, meaning: found });
    // A word in quotes is one of several, all of which are wanted.
    else for (const word of wordsIn(body)) parts.push({ ...place, meaning: { kind: 'word', word } });
  }
  return { parts: parts.slice(0, mostParts) };
}

/** What the first rule that reads a piece says; null for words. */
function meaningOf(body: string): PartMeaning | null {
  for (const { pattern, read } of rules) {
    const match = pattern.exec(body),
      meaning = match && read(match);
    if (meaning) return meaning;
  }
  return null;
}

const mostParts = 16;

/** Words as search terms: letters and digits only, of any script, folded. */
export function wordsIn(text: string): string[] {
  return fold(text)
    .replaceAll('♯', 'sharp')
    .replaceAll('♭', 'flat')
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
}

/** A part of structure in words, as its chip says it; null for plain words, which stand in the line themselves. */
export function partInWords({ meaning, isNot }: LinePart): string | null {
  const words = meaningInWords(meaning);
  return words === null ? (isNot ? `not “${(meaning as { word: string }).word}”` : null) : isNot ? `not ${words}` : words;
}

function meaningInWords(meaning: PartMeaning): string | null {
  switch (meaning.kind) {
    case 'tempo':
      return meaning.toBpm - meaning.fromBpm <= 1
        ? `at ${(meaning.fromBpm + meaning.toBpm) / 2}`
        : `at ${meaning.fromBpm}–${meaning.toBpm}`;
    case 'within':
      return `stretched by ${meaning.percent} % at most`;
    case 'key':
      return `in ${keyName(meaning.key)}`;
    case 'key-relation':
      return {
        same: 'in the project’s key',
        relative: 'in it or its relative',
        parallel: 'in it or its parallel',
        fifth: 'a fifth away at most',
      }[meaning.relation];
    case 'shift':
      return `moved by ${meaning.semitones} at most`;
    case 'bars':
      return meaning.from === meaning.to ? `${meaning.from} bars` : `${meaning.from}–${meaning.to} bars`;
    case 'is':
      return isWords[meaning.what];
    case 'by':
      return `brought in by ${meaning.name}`;
    case 'added':
      return meaning.days === 1 ? 'added today' : `added in ${meaning.days} days`;
    case 'named':
      return `${namedFields[meaning.field]} ${meaning.name}`;
    case 'rated':
      return meaning.stars === 0 ? 'not rated by me' : `rated ${meaning.stars} or more`;
    case 'licence':
      return `licensed for ${licenceUseWords[meaning.use]}`;
    case 'word':
      return null;
  }
}

/** The line without one of its parts. */
export const withoutPart = (text: string, { start, end }: Pick<LinePart, 'start' | 'end'>): string =>
  `${text.slice(0, start)} ${text.slice(end)}`.replace(/\s+/g, ' ').trim();

/** The line with a part meant the other way round. */
export const turnedPart = (text: string, { start, end, isNot }: LinePart): string =>
  isNot ? text.slice(0, start) + text.slice(start + 1) : `${text.slice(0, start)}-${text.slice(start, end)}${text.slice(end)}`;

/** The line with a part moved before the one in front of it (−1) or behind the next (1); as it is where there is none. */
export function movedPart(text: string, { start }: Pick<LinePart, 'start'>, by: -1 | 1): string {
  const all = [...new Map(readLine(text).parts.map((part) => [part.start, part])).values()],
    at = all.findIndex((part) => part.start === start),
    to = at + by;
  if (at < 0 || to < 0 || to >= all.length) return text;
  const pieces = all.map((part) => part.text);
  [pieces[at], pieces[to]] = [pieces[to], pieces[at]];
  return pieces.join(' ');
}

/** Forms that can be typed, with what each means: shown as help, and offered while one types. */
export const lineHelp: readonly { readonly form: string; readonly means: string }[] = [
  { form: '118-126', means: 'a range of tempos' },
  { form: '±6%', means: 'stretched by 6 % at most to fit the project, half and double time too' },
  { form: 'Fm', means: 'in a key; key:C for one without a sign' },
  { form: '±2st', means: 'moved by two semitones at most to fit the project; what has no pitch always' },
  ...keyRelations.map((relation) => ({
    form: `key:${relation}`,
    means: meaningInWords({ kind: 'key-relation', relation }) ?? '',
  })),
  { form: '4 bars', means: 'of a length; 2-8 bars for several' },
  ...Object.entries(isWords).map(([what, means]) => ({ form: `is:${what}`, means })),
  { form: 'by:Teo', means: 'brought in by a person' },
  { form: 'added:7d', means: 'in the last days; also 2w, 3m, today' },
  { form: 'genre:house', means: 'of a genre' },
  { form: 'character:dry', means: 'that sounds so: dry, bright, tight, busy …' },
  { form: 'instrument:shaker', means: 'of an instrument, by its name or another one' },
  { form: 'role:fill', means: 'of a role in its set: verse, fill, ending …' },
  { form: 'pack:Harbour', means: 'of packs that are called so; also vendor: and set:' },
  { form: 'meter:3/4', means: 'of a meter' },
  { form: 'tag:rainy', means: 'with a tag' },
  { form: 'rated:3', means: 'with so many stars from me, or more; rated:none without' },
  { form: 'licence:commercial', means: 'licensed for commercial work; also uncredited, changed' },
  { form: '-pad', means: 'without a word; a minus turns every part round' },
];

/** What could be meant by the last, unfinished piece of a line. */
export function completionsOf(text: string): readonly { readonly form: string; readonly means: string }[] {
  const last = /(\S+)$/.exec(text)?.[1]?.replace(/^-/, '').toLowerCase() ?? '';
  return last.length < 2
    ? []
    : lineHelp.filter(({ form }) => form.toLowerCase().startsWith(last) && form.toLowerCase() !== last).slice(0, 8);
}
