import { errorsForgiven, meantWords } from '../typos';
import { Column } from './columns';
import { setBit, type Bits } from './bits';

/** Bits of the letters in a word: words that differ in few letters differ in few bits. */
function letterBits(word: string): number {
  let bits = 0;
  for (let k = 0; k < word.length; k++) bits |= 1 << (word.charCodeAt(k) & 31);
  return bits;
}

function ones(word: number): number {
  let count = 0;
  for (let left = word; left !== 0; left &= left - 1) count++;
  return count;
}

/** The slots of each word, and the words in their order, by which those with a beginning are found. */
export class WordIndex {
  private readonly termOf = new Map<string, number>();
  private readonly terms: string[] = [];
  private readonly letters: number[] = [];
  private readonly postings: Column<Uint32Array>[] = [];
  /** Terms by their words; null while new ones wait to be put in. */
  private order: Uint32Array | null = null;

  /** @param words of a slot that is higher than all before */
  add(slot: number, words: Iterable<string>): void {
    for (const word of words) {
      let term = this.termOf.get(word);
      if (term === undefined) {
        term = this.terms.length;
        this.termOf.set(word, term);
        this.terms.push(word);
        this.letters.push(letterBits(word));
        this.postings.push(new Column(Uint32Array));
        this.order = null;
      }
      const list = this.postings[term];
      if (list.length === 0 || list.data[list.length - 1] !== slot) list.push(slot);
    }
  }

  /** Sets the bits of all slots that hold the word itself. */
  markWord(bits: Bits, word: string): void {
    const term = this.termOf.get(word);
    if (term !== undefined) this.mark(bits, term);
  }

  /** Sets the bits of all slots with a word that begins so. @returns whether there is one */
  markBeginning(bits: Bits, beginning: string): boolean {
    const order = this.sorted(),
      from = this.lowerBound(beginning);
    let at = from;
    for (; at < order.length && this.terms[order[at]].startsWith(beginning); at++) this.mark(bits, order[at]);
    return at > from;
  }

  hasBeginning(beginning: string): boolean {
    const at = this.lowerBound(beginning);
    return at < this.sorted().length && this.terms[this.sorted()[at]].startsWith(beginning);
  }

  /** Words that were likely meant by one that none begins with, the nearest first. */
  meantBy(typed: string): string[] {
    const forgiven = errorsForgiven(typed);
    if (forgiven === 0 || this.hasBeginning(typed)) return [];
    const bits = letterBits(typed);
    return meantWords(
      typed,
      this.terms.filter((word, term) => {
        if (word.length < 4 || word.length < typed.length - forgiven || /\d/.test(word)) return false;
        // Of a longer word its beginning may be meant, whose letters are among its own.
        const missing = ones(bits & ~this.letters[term]);
        return missing <= forgiven;
      }),
    );
  }

  get size(): number {
    return this.terms.length;
  }

  private mark(bits: Bits, term: number): void {
    const { data, length } = this.postings[term];
    for (let k = 0; k < length; k++) setBit(bits, data[k]);
  }

  private sorted(): Uint32Array {
    return (this.order ??= Uint32Array.from(this.terms.keys()).sort((a, b) =>
      this.terms[a] < this.terms[b] ? -1 : this.terms[a] > this.terms[b] ? 1 : 0,
    ));
  }

  private lowerBound(word: string): number {
    const order = this.sorted();
    let low = 0,
      high = order.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.terms[order[middle]] < word) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}
