import { relativeKey, shiftToKey, type Key } from '../../theory/key';
import { licenceAllows } from '../../library/licence';
import type { FitContext } from '../fit/coarse';
import { stretchOctaves } from '../fit/coarse';
import { askedOf, instrumentCalled, instrumentsNamed, isCalled, withKin } from '../called';
import { facets } from '../facets';
import { readLine, wordsIn, type IsWord, type KeyRelation, type LinePart, type NamedField, type PartMeaning } from '../line';
import { outsideName, type Outside } from '../outside';
import { chosenOf, type LoopQuery } from '../query';
import { intersect, unite, type Bits } from './bits';
import type { FacetColumn } from './columns';
import type { LibraryIndex } from './library-index';

/** What a question is answered by beside the query and the library. */
export interface MatchContext {
  readonly project: FitContext | null;
  /** Ids by `outsideName`. */
  readonly outside: Readonly<Record<string, ArrayLike<number>>>;
  readonly nowMs: number;
  /** Words that were likely meant, for those that nothing begins with. */
  readonly meant: ReadonlyMap<string, readonly string[]>;
}

/** One of the conditions of a query. */
export interface Condition {
  /** The facet whose choice it is, which its own counts leave out; null for none. */
  readonly facet: string | null;
  /** Under which its bits can be kept as long as the library is the same; null for what goes by more than the library. */
  readonly cacheKey: string | null;
  /** A set of the caller's own; slots that are dead may be in it. */
  readonly bits: () => Bits;
}

/** Tempo is narrowed by a range, not by choices, and counted in bins. */
export const tempoFacet = 'tempo';

/** All conditions of a query. */
export function conditionsOf(index: LibraryIndex, query: LoopQuery, context: MatchContext): Condition[] {
  const { parts } = readLine(query.words),
    told = (outside: Outside) => index.bitsOfIds(context.outside[outsideName(outside)] ?? []),
    project = context.project ? `${context.project.tempoBpm}/${context.project.key?.tonic}${context.project.key?.mode}` : '';
  return [
    // A line that holds nothing to go by matches nothing, and not everything.
    ...(query.words && parts.length === 0 ? [{ facet: null, cacheKey: null, bits: index.emptyBits }] : []),
    ...askedOf(parts).map((asked): Condition => {
      if (asked.kind === 'pair') {
        const ids = new Set(withKin(asked.instrument).map(({ id }) => id));
        return {
          facet: null,
          cacheKey: `pair ${JSON.stringify(asked.parts.map(({ meaning }) => meaning))}`,
          bits: () =>
            unite(
              asked.parts.map((part) => partBits(index, part, context)).reduce(intersect),
              index.bitsOfTexts(index.instruments, (text) => ids.has(text)),
            ),
        };
      }
      const { part } = asked;
      const outside = outsideOfMeaning(part.meaning);
      return {
        facet: null,
        cacheKey: outside || part.meaning.kind === 'added' ? null : `${project} ${JSON.stringify([part.meaning, part.isNot])}`,
        bits: () => partBits(index, part, context),
      };
    }),
    ...facets.flatMap(({ name, match }): Condition[] => {
      const values = chosenOf(query, name);
      if (values.length === 0) return [];
      const column = index.facetColumns.get(name),
        key = `${name} ${JSON.stringify(values)}`,
        ids = values.map(Number);
      if (column) return [{ facet: name, cacheKey: key, bits: () => index.bitsOfTexts(column, (text) => values.includes(text)) }];
      switch (match) {
        case 'id':
          return [{ facet: name, cacheKey: key, bits: () => index.bitsWhere((slot) => ids.includes(index.sets.at(slot))) }];
        case 'folder':
          return [
            {
              facet: name,
              cacheKey: key,
              bits: () => index.bitsOfTexts(index.folders, (text) => values.some((value) => text.startsWith(value))),
            },
          ];
        case 'pack':
          return [
            {
              facet: name,
              cacheKey: null,
              bits: () => {
                const own = index.bitsWhere((slot) => ids.includes(index.packs.at(slot)));
                return ids.reduce((bits, packId) => unite(bits, told({ kind: 'linked', packId })), own);
              },
            },
          ];
        default:
          return [
            {
              facet: name,
              cacheKey: null,
              bits: () => ids.reduce((bits, id) => unite(bits, told({ kind: 'collection', id })), index.emptyBits()),
            },
          ];
      }
    }),
    ...(query.tempo
      ? [
          {
            facet: tempoFacet,
            cacheKey: `tempo ${query.tempo.fromBpm} ${query.tempo.toBpm}`,
            bits: tempoBits(index, query.tempo.fromBpm, query.tempo.toBpm, false),
          },
        ]
      : []),
    ...(query.favourites ? [{ facet: null, cacheKey: null, bits: () => told({ kind: 'favourites' }) }] : []),
  ];
}

function outsideOfMeaning(meaning: PartMeaning): boolean {
  return (
    meaning.kind === 'by' ||
    meaning.kind === 'rated' ||
    (meaning.kind === 'named' && meaning.field === 'tag') ||
    (meaning.kind === 'is' && ['favourite', 'used', 'unused'].includes(meaning.what))
  );
}

const tempoBits = (index: LibraryIndex, from: number, to: number, isClosed: boolean) => () => {
  const { data } = index.tempoBpm;
  return index.bitsWhere(isClosed ? (slot) => data[slot] >= from && data[slot] <= to : (slot) => data[slot] >= from && data[slot] < to);
};

/** The slots that a part of the line means. Dead ones may be among those of a part that is turned round. */
function partBits(index: LibraryIndex, { meaning, isNot }: LinePart, context: MatchContext): Bits {
  const bits = meaningBits(index, meaning, context);
  if (isNot) for (let k = 0; k < bits.length; k++) bits[k] = ~bits[k];
  return bits;
}

function meaningBits(index: LibraryIndex, meaning: PartMeaning, context: MatchContext): Bits {
  const { project, outside } = context,
    told = (each: Outside) => index.bitsOfIds(outside[outsideName(each)] ?? []);
  switch (meaning.kind) {
    case 'word':
      return wordBits(index, meaning.word, context.meant.get(meaning.word) ?? []);
    case 'tempo':
      return tempoBits(index, meaning.fromBpm, meaning.toBpm, true)();
    case 'within': {
      if (!project) return index.emptyBits();
      const most = Math.log2(1 + meaning.percent / 100) + 1e-9,
        { data } = index.tempoBpm;
      return index.bitsWhere((slot) => !Number.isNaN(data[slot]) && stretchOctaves(data[slot], project.tempoBpm) <= most);
    }
    case 'key': {
      const code = codeOf(meaning.key);
      return index.bitsWhere((slot) => index.keys.data[slot] === code);
    }
    case 'key-relation':
    case 'shift':
      return keyBits(index, meaning, project?.key ?? null);
    case 'bars':
      return index.bitsWhere((slot) => index.bars.data[slot] >= meaning.from && index.bars.data[slot] <= meaning.to);
    case 'is':
      return isBits(index, meaning.what, told);
    case 'by': {
      const people = new Set(Array.from(outside[outsideName({ kind: 'people', name: meaning.name })] ?? []));
      return index.bitsWhere((slot) => people.has(index.addedBy.data[slot]));
    }
    case 'added': {
      const since = context.nowMs - meaning.days * 86_400_000;
      return index.bitsWhere((slot) => index.addedAtMs.data[slot] > since);
    }
    case 'rated':
      return told({ kind: 'rated', stars: meaning.stars });
    case 'licence':
      return index.bitsOfTexts(index.licences, (text) => licenceAllows(text, meaning.use) === true);
    case 'named':
      return meaning.field === 'tag' ? told({ kind: 'tag', name: meaning.name }) : namedBits(index, meaning.field, meaning.name);
  }
}

const codeOf = (key: Key): number => key.tonic * 2 + (key.mode === 'minor' ? 1 : 0);
const keyOfCode = (code: number): Key => ({ tonic: code >> 1, mode: code % 2 ? 'minor' : 'major' });

/**
 * A word begins one of a loop's, as it was typed or as it was likely meant; or it is another name of an instrument, whose own name every loop's words
 * hold.
 */
function wordBits(index: LibraryIndex, word: string, meant: readonly string[]): Bits {
  const bits = index.emptyBits();
  for (const each of [word, ...meant]) index.words.markBeginning(bits, each);
  const named = instrumentCalled(word);
  for (const { label } of named ? withKin(named) : []) unite(bits, labelBits(index, label));
  return bits;
}

/** The slots that hold all words of a label. */
function labelBits(index: LibraryIndex, label: string): Bits {
  return wordsIn(label)
    .map((each) => {
      const own = index.emptyBits();
      index.words.markWord(own, each);
      return own;
    })
    .reduce(intersect);
}

/** What a field is called: by how its words begin, in their order; an instrument by its other names too. */
function namedBits(index: LibraryIndex, field: Exclude<NamedField, 'tag'>, name: string): Bits {
  const columns: Partial<Record<NamedField, FacetColumn>> = {
      pack: index.packNames,
      vendor: index.vendors,
      set: index.setStems,
      meter: index.meters,
    },
    own = columns[field];
  if (field === 'meter') return index.bitsOfTexts(index.meters, (text) => text === name.trim());
  if (own) return index.bitsOfTexts(own, (text) => isCalled(text, name));
  const column = index.facetColumns.get(field),
    choices = facets.find((facet) => facet.name === field)?.choices ?? [];
  if (!column) return index.emptyBits();
  const ids = new Set(
    field === 'instrument'
      ? instrumentsNamed(name)
      : choices.filter(({ label, value }) => isCalled(label, name) || isCalled(value, name)).map(({ value }) => value),
  );
  return index.bitsOfTexts(column, (text) => ids.has(text));
}

/** What keeps its pitch, or has none, and keys that stand so to the project's. */
function keyBits(index: LibraryIndex, meaning: Extract<PartMeaning, { kind: 'key-relation' | 'shift' }>, key: Key | null): Bits {
  const fits = Uint8Array.from({ length: 24 }, (_, code) => (key && keyFits(keyOfCode(code), key, meaning) ? 1 : 0)),
    drums = index.families.dictionary.find('drums'),
    { data: keys } = index.keys,
    { data: pitched } = index.pitched;
  return index.bitsWhere(
    (slot) =>
      pitched[slot] === 1 || (drums !== null && index.families.codeAt(slot) === drums) || (keys[slot] >= 0 && fits[keys[slot]] === 1),
  );
}

function keyFits(own: Key, wanted: Key, meaning: Extract<PartMeaning, { kind: 'key-relation' | 'shift' }>): boolean {
  if (meaning.kind === 'shift') return Math.abs(shiftToKey(own, wanted)) <= meaning.semitones;
  return relates(own, wanted, meaning.relation);
}

function relates(own: Key, wanted: Key, relation: KeyRelation): boolean {
  if (relation === 'same') return own.tonic === wanted.tonic && own.mode === wanted.mode;
  if (relation === 'parallel') return own.tonic === wanted.tonic;
  const relative = relativeKey(wanted),
    shift = Math.abs(shiftToKey(own, wanted)),
    isRelative = (own.tonic === wanted.tonic && own.mode === wanted.mode) || (own.tonic === relative.tonic && own.mode === relative.mode);
  return relation === 'relative' ? isRelative : isRelative || shift === 5;
}

function isBits(index: LibraryIndex, what: IsWord, told: (outside: Outside) => Bits): Bits {
  switch (what) {
    case 'loop':
    case 'one-shot':
    case 'phrase':
      return index.bitsOfTexts(index.kinds, (text) => text === what);
    case 'mix':
      return index.bitsOfTexts(index.kinds, (text) => text === 'full-mix');
    case 'notes':
      return index.bitsWhere((slot) => index.isNotes.data[slot] === 1);
    case 'audio':
      return index.bitsWhere((slot) => index.isNotes.data[slot] === 0);
    case 'unpitched':
      return index.bitsWhere((slot) => index.pitched.data[slot] === 1);
    case 'doubtful':
      return index.bitsWhere((slot) => index.doubtful.data[slot] === 1);
    case 'favourite':
      return told({ kind: 'favourites' });
    case 'used':
      return told({ kind: 'used' });
    case 'unused': {
      const bits = told({ kind: 'used' });
      for (let k = 0; k < bits.length; k++) bits[k] = ~bits[k];
      return bits;
    }
  }
}

/**
 * What is found in three tiers: where each word of the line is a whole word of the loop; where each begins one; and what was found by other names or
 * for what was likely meant. One tier where the line holds no words.
 */
export function tiersOf(index: LibraryIndex, words: string, all: Bits): Bits[] {
  const asked = readLine(words).parts.flatMap(({ meaning, isNot }) => (meaning.kind === 'word' && !isNot ? [meaning.word] : []));
  if (asked.length === 0) return [all];
  const among = (mark: (bits: Bits, word: string) => void): Bits =>
      asked.reduce<Bits>((bits, word) => {
        const own = index.emptyBits();
        mark(own, word);
        return intersect(bits, own);
      }, all.slice()),
    whole = among((bits, word) => index.words.markWord(bits, word)),
    begun = among((bits, word) => {
      index.words.markBeginning(bits, word);
      const named = instrumentCalled(word);
      if (named) unite(bits, labelBits(index, named.label));
    });
  return [whole, begun.map((word, k) => word & ~whole[k]), all.map((word, k) => word & ~begun[k])];
}

/** Words for each of a line's that none begins with. */
export function meantIn(index: LibraryIndex, words: string): Map<string, readonly string[]> {
  const meant = new Map<string, readonly string[]>();
  for (const { meaning } of readLine(words).parts)
    if (meaning.kind === 'word' && !meant.has(meaning.word)) {
      const found = index.words.meantBy(meaning.word);
      if (found.length > 0) meant.set(meaning.word, found);
    }
  return meant;
}
