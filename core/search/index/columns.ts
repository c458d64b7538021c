type Typed = Uint8Array | Uint16Array | Uint32Array | Int8Array | Int32Array | Float32Array | Float64Array;

/** Numbers by slot, that grow by doubling. */
export class Column<T extends Typed> {
  data: T;
  length = 0;
  constructor(private readonly make: new (length: number) => T) {
    this.data = new make(1024);
  }
  push(value: number): void {
    this.reserve(this.length + 1);
    this.data[this.length++] = value;
  }
  /** Adds so many bytes, or zeros where there are none. */
  append(values: ArrayLike<number> | null, count: number): void {
    this.reserve(this.length + count);
    if (values) this.data.set(values as never, this.length);
    this.length += count;
  }
  private reserve(length: number): void {
    if (length <= this.data.length) return;
    const next = new this.make(Math.max(length, this.data.length * 2));
    next.set(this.data as never);
    this.data = next;
  }
}

/** Texts that recur, by number: 0 is for none. */
export class Dictionary {
  readonly texts: string[] = [''];
  private readonly codes = new Map<string, number>();
  codeOf(text: string | null): number {
    if (text === null) return 0;
    let code = this.codes.get(text);
    if (code === undefined) {
      code = this.texts.length;
      this.codes.set(text, code);
      this.texts.push(text);
    }
    return code;
  }
  /** The code of a text that is there; null for one that never was. */
  find(text: string): number | null {
    return this.codes.get(text) ?? null;
  }
}

/** What a facet holds of each slot: one text, or several. */
export class FacetColumn {
  readonly dictionary = new Dictionary();
  private readonly codes = new Column(Uint32Array);
  /** Where the codes of a slot end; null for a facet of one. */
  private readonly ends: Column<Uint32Array> | null;
  constructor(readonly isSeveral: boolean) {
    this.ends = isSeveral ? new Column(Uint32Array) : null;
  }
  push(value: string | readonly string[] | null): void {
    if (!this.ends) return this.codes.push(this.dictionary.codeOf(value as string | null));
    for (const each of new Set(value ?? [])) this.codes.push(this.dictionary.codeOf(each));
    this.ends.push(this.codes.length);
  }
  /** Code of a slot, of a facet of one. */
  codeAt = (slot: number): number => this.codes.data[slot];
  textAt(slot: number): string | null {
    const code = this.codes.data[slot];
    return code === 0 ? null : this.dictionary.texts[code];
  }
  /** Adds to `counts`, by code, what these slots hold. */
  count(slots: Uint32Array, counts: Uint32Array): void {
    const { data } = this.codes;
    if (!this.ends) for (let k = 0; k < slots.length; k++) counts[data[slots[k]]]++;
    else {
      const ends = this.ends.data;
      for (let k = 0; k < slots.length; k++)
        for (let at = slots[k] === 0 ? 0 : ends[slots[k] - 1]; at < ends[slots[k]]; at++) counts[data[at]]++;
    }
  }
  /** Sets the bits of slots below `length` that hold one of the wanted codes. */
  mark(bits: Uint32Array, length: number, wanted: Uint8Array): void {
    const { data } = this.codes;
    if (!this.ends) {
      for (let slot = 0; slot < length; slot++) if (wanted[data[slot]]) bits[slot >>> 5] |= 1 << (slot & 31);
    } else {
      const ends = this.ends.data;
      for (let slot = 0, at = 0; slot < length; slot++)
        for (; at < ends[slot]; at++) if (wanted[data[at]]) bits[slot >>> 5] |= 1 << (slot & 31);
    }
  }
}

/** Numbers that recur, each by a code that counts up: what many slots hold is counted without looking anything up. NaN is for none. */
export class CodedColumn {
  /** The number of each code. */
  readonly values: number[] = [];
  private readonly known = new Map<number, number>();
  private readonly codes = new Column(Uint32Array);
  push(value: number): void {
    let code = this.known.get(value);
    if (code === undefined) {
      code = this.values.length;
      this.known.set(value, code);
      this.values.push(value);
    }
    this.codes.push(code);
  }
  codeAt = (slot: number): number => this.codes.data[slot];
  at = (slot: number): number => this.values[this.codes.data[slot]];
  /** How many of these slots hold each number that any of them holds. */
  count(slots: Uint32Array): { readonly value: number; readonly count: number }[] {
    const { data } = this.codes,
      counts = new Uint32Array(this.values.length);
    for (let k = 0; k < slots.length; k++) counts[data[slots[k]]]++;
    return this.values.flatMap((value, code) => (counts[code] > 0 && !Number.isNaN(value) ? [{ value, count: counts[code] }] : []));
  }
}
