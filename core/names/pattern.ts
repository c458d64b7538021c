import { parseKey, type Key } from '../theory/key';
import { shapeOf } from './fields';

/** What a part of a name is, in all names of one shape of a pack. */
export const fieldRoles = ['tempo', 'key', 'number', 'letter', 'code', 'words'] as const;
export type FieldRole = (typeof fieldRoles)[number];
/** Whether a text names a role. */
export const isFieldRole = (text: string): text is FieldRole => (fieldRoles as readonly string[]).includes(text);

export const fieldRoleWords: Readonly<Record<FieldRole, string>> = {
  tempo: 'tempo',
  key: 'key',
  number: 'a number that counts',
  letter: 'a letter that counts',
  code: 'pack or catalogue',
  words: 'words',
};

/** Of names of one shape, what each of their parts is, from the first on. */
export interface NamePattern {
  readonly signature: string;
  readonly roles: readonly FieldRole[];
}

/** A name, and what was heard of its loop by ear alone. */
export interface HeardName {
  readonly stem: string;
  /** Readings of the tempo, the likeliest first; empty for what has none. */
  readonly heardTempos: readonly number[];
  /** The tonic that was heard; null for none. */
  readonly heardTonic: number | null;
}

/** A pattern is learnt from so many names of a shape at least, of which nine in ten are so. */
const leastNames = 5,
  mostly = 0.9,
  /** A column agrees with the sound when so many of those that can be compared do. */
  tempoAgrees = 0.6,
  keyAgrees = 0.5;

const tempoText = /^(?:bpm ?)?(\d{2,3}(?:\.\d{1,3})?)(?: ?bpm)?$/i;

/** The tempo that a part of a name would state; null for what cannot be one. */
export function tempoOfField(text: string): number | null {
  const value = Number(tempoText.exec(text.trim())?.[1] ?? NaN);
  return value >= 30 && value <= 400 ? value : null;
}

/** The key that a part of a name would state, a single letter taken for one; null for what cannot be one. @example keyOfField('Fsharp') */
export function keyOfField(text: string): Key | null {
  const match =
    /^([A-Ga-g]) ?(#|♯|b|♭|sharp|flat|s)? ?(m|min|minor|maj|major|dorian|phrygian|lydian|mixolydian)?(?:7|9|11|sus[24]|add9)?$/i.exec(
      text.trim(),
    );
  if (!match || (match[2] === undefined && match[3] === undefined && !/^[A-G]/.test(match[1]))) return null;
  const [, letter, sign = '', mode = ''] = match,
    altered = /^(#|♯|sharp|s)$/i.test(sign) ? '#' : sign ? 'b' : '',
    name =
      mode === 'm' || /^min/i.test(mode)
        ? ' minor'
        : mode === 'M' || /^maj/i.test(mode) || mode === ''
          ? ' major'
          : ` ${mode.toLowerCase()}`;
  return parseKey(`${letter.toUpperCase()}${altered}${name}`);
}

/** Patterns of a pack's names: one for each shape that enough of them have. */
export function learnPatterns(names: readonly HeardName[]): NamePattern[] {
  const groups = new Map<string, { readonly fields: readonly string[]; readonly name: HeardName }[]>();
  for (const name of names) {
    const { signature, fields } = shapeOf(name.stem),
      group = groups.get(signature) ?? [];
    group.push({ fields: fields.map(({ text }) => text), name });
    groups.set(signature, group);
  }
  return [...groups]
    .filter(([, members]) => members.length >= leastNames && members[0].fields.length > 1)
    .map(([signature, members]) => ({
      signature,
      roles: rolesOf(members[0].fields.map((_, column) => members.map(({ fields, name }) => ({ text: fields[column], name })))),
    }));
}

interface Cell {
  readonly text: string;
  readonly name: HeardName;
}

/** One column at most is the tempo, and one the key: of several the one that agrees best with the sound. */
function rolesOf(columns: readonly (readonly Cell[])[]): FieldRole[] {
  const tempo = best(columns.map(tempoFit)),
    key = best(columns.map((cells, column) => (column === tempo ? 0 : keyFit(cells))));
  return columns.map((cells, column) => (column === tempo ? 'tempo' : column === key ? 'key' : plainRole(cells)));
}

function best(fits: readonly number[]): number | null {
  const most = Math.max(...fits);
  return most > 0 ? fits.indexOf(most) : null;
}

const share = <V>(all: readonly V[], holds: (each: V) => boolean): number => (all.length === 0 ? 0 : all.filter(holds).length / all.length);

/** How surely a column states tempos: 0 for not. Numbers that count go up and agree with nothing. */
function tempoFit(cells: readonly Cell[]): number {
  if (share(cells, ({ text }) => tempoOfField(text) !== null) < mostly) return 0;
  const heard = cells.filter(({ text, name }) => tempoOfField(text) !== null && name.heardTempos.length > 0),
    agreeing = share(heard, ({ text, name }) =>
      name.heardTempos.some((tempo) => [0.5, 1, 2].some((times) => Math.abs(tempo / ((tempoOfField(text) as number) * times) - 1) < 0.012)),
    );
  // With words for it nothing else has to be heard.
  if (share(cells, ({ text }) => /bpm/i.test(text)) >= mostly) return 2;
  return heard.length >= leastNames - 1 && agreeing >= tempoAgrees ? agreeing : 0;
}

/** The same for keys. A letter may count as well: what agrees with no tonic, and never goes beyond D, does. */
function keyFit(cells: readonly Cell[]): number {
  if (share(cells, ({ text }) => keyOfField(text) !== null) < mostly) return 0;
  const heard = cells.filter(({ text, name }) => keyOfField(text) !== null && name.heardTonic !== null),
    agreeing = share(heard, ({ text, name }) => keyOfField(text)?.tonic === name.heardTonic);
  if (share(cells, ({ text }) => text.length > 1) >= mostly) return 2;
  return heard.length >= leastNames - 1 && agreeing >= keyAgrees ? agreeing : 0;
}

function plainRole(cells: readonly Cell[]): FieldRole {
  const [first] = cells;
  if (cells.every(({ text }) => text === first.text) || share(cells, ({ text }) => /^[A-Z]{2,5}\d{0,4}$/.test(text)) >= mostly)
    return 'code';
  if (share(cells, ({ text }) => /^(#|no\.? ?|nr\.? ?)?\d{1,4}$/i.test(text)) >= mostly) return 'number';
  return share(cells, ({ text }) => /^[A-Ha-h]\d{0,2}$/.test(text)) >= mostly ? 'letter' : 'words';
}

/** The pattern by which a name is read; undefined where none of its shape is known. */
export const patternFor = (stem: string, patterns: readonly NamePattern[]): NamePattern | undefined => {
  const { signature } = shapeOf(stem);
  return patterns.find((each) => each.signature === signature);
};
