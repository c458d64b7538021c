import { fold } from '../names/fold';
import { allInstruments, type Instrument } from '../theory/instruments';
import { wordsIn, type LinePart } from './line';

/** The instrument that a word is another name of; undefined for none. */
export const instrumentCalled = (word: string): Instrument | undefined => allInstruments().find(({ words }) => words.test(word));

/** An instrument, and those that only a name tells from it. */
export const withKin = ({ id }: Instrument): Instrument[] => allInstruments().filter((each) => each.id === id || each.soundsAs === id);

/** Ids of what an `instrument:` part means: what is labelled so; where nothing is, what goes by that name, and its kin. */
export function instrumentsNamed(name: string): string[] {
  const labelled = allInstruments().filter(({ label, id }) => isCalled(label, name) || isCalled(id, name)),
    called = labelled.length > 0 ? undefined : instrumentCalled(fold(name));
  return (called ? withKin(called) : labelled).map(({ id }) => id);
}

/** Whether a text holds words that begin as those of a name do, in their order. @example isCalled('Drum and bass', 'drum') // => true */
export function isCalled(text: string, name: string): boolean {
  const words = wordsIn(text),
    wanted = wordsIn(name);
  return wanted.length > 0 && words.some((_, from) => wanted.every((each, k) => words[from + k]?.startsWith(each)));
}

/** A part of the line by itself, or two words that are one name together: `bass drum`. */
export type Asked =
  | { readonly kind: 'part'; readonly part: LinePart }
  | { readonly kind: 'pair'; readonly parts: readonly [LinePart, LinePart]; readonly instrument: Instrument };

/** The parts of a line, with two words behind each other taken together where both are an instrument's name. */
export function askedOf(parts: readonly LinePart[]): Asked[] {
  const asked: Asked[] = [];
  for (let k = 0; k < parts.length; k++) {
    const [part, next] = [parts[k], parts[k + 1]];
    if (part.meaning.kind === 'word' && !part.isNot && next?.meaning.kind === 'word' && !next.isNot) {
      const name = `${part.meaning.word} ${next.meaning.word}`,
        instrument = allInstruments().find(({ words }) => words.exec(name)?.[0] === name);
      if (instrument) {
        asked.push({ kind: 'pair', parts: [part, next], instrument });
        k++;
        continue;
      }
    }
    asked.push({ kind: 'part', part });
  }
  return asked;
}
