import { facets } from '../facets';
import { families } from '../../theory/instruments';
import { loopBarBeats } from '../../units/time';
import { licenceAllows, licenceUses, type LicenceUse } from '../../library/licence';
import { wordsIn } from '../line';
import { tempoBinBpm } from '../tempo-bins';
import { fold } from '../../names/fold';
import type { FitLoop } from '../fit/score';
import { ProfileReader, profileLength } from '../fit/profile';
import { likenessLength } from '../../analysis/similarity/likeness';
import type { LoopKind } from '../../analysis/attributes/loop-kinds';
import type { Family } from '../../theory/instruments';
import { clearBit, newBits, setBit, slotsOf, countBits, type Bits } from './bits';
import { colourCellOf } from './colour-cells';
import { CodedColumn, Column, FacetColumn } from './columns';
import type { IndexedLoop } from './indexed-loop';
import { WordIndex } from './words';

/** Facets that are held against a column, and so live in the index: all but those by id and by folder. */
export const columnFacets = facets.filter(({ match }) => match === 'text' || match === 'number' || match === 'among' || match === 'key');

/**
 * The library in memory: columns by slot, words with their slots. A loop that changes gets a new slot and its old one dies, so that nothing in here
 * is ever wrong by halves.
 */
export class LibraryIndex {
  /** Grows with every change: what was reckoned for another is outdated. */
  version = 0;
  readonly ids = new Column(Int32Array);
  readonly addedBy = new Column(Int32Array);
  readonly addedAtMs = new Column(Float64Array);
  readonly tempoBpm = new Column(Float64Array);
  readonly bars = new Column(Float32Array);
  readonly beats = new Column(Float32Array);
  readonly lengthSeconds = new Column(Float64Array);
  readonly loudnessLufs = new Column(Float32Array);
  /** Tonic × 2 + (minor ? 1 : 0); −1 for none. */
  readonly keys = new Column(Int8Array);
  /** 0 not known, 1 unpitched, 2 pitched. */
  readonly pitched = new Column(Uint8Array);
  readonly doubtful = new Column(Uint8Array);
  readonly isNotes = new Column(Uint8Array);
  readonly kinds = new FacetColumn(false);
  readonly instruments = new FacetColumn(false);
  readonly families = new FacetColumn(false);
  readonly meters = new FacetColumn(false);
  readonly folders = new FacetColumn(false);
  readonly packNames = new FacetColumn(false);
  readonly vendors = new FacetColumn(false);
  readonly setStems = new FacetColumn(false);
  readonly licences = new FacetColumn(false);
  /** Ids of packs and of sets (0 for none), bars of the tempo chart, and cells of the colour chart. */
  readonly packs = new CodedColumn();
  readonly sets = new CodedColumn();
  readonly tempoBins = new CodedColumn();
  readonly colourCells = new CodedColumn();
  readonly facetColumns: ReadonlyMap<string, FacetColumn> = new Map(
    columnFacets.map(({ name, match }) => [name, new FacetColumn(match === 'among')]),
  );
  readonly titles: string[] = [];
  readonly likeness = new Column(Int8Array);
  readonly hasLikeness = new Column(Uint8Array);
  readonly profiles = new Column(Uint8Array);
  readonly words = new WordIndex();
  private alive: Bits = newBits(1024);
  private readonly slotOf = new Map<number, number>();
  private dead = 0;
  private readonly licenceBits = new Map<string, number>();

  /** Slots there are, dead ones among them. */
  get length(): number {
    return this.ids.length;
  }
  get count(): number {
    return this.slotOf.size;
  }
  /** Share of slots that died. */
  get deadShare(): number {
    return this.length === 0 ? 0 : this.dead / this.length;
  }

  /** Puts a loop in, in the place of what was there under its id. */
  put(loop: IndexedLoop): void {
    this.kill(loop.id);
    const slot = this.length;
    this.version++;
    this.ids.push(loop.id);
    this.addedBy.push(loop.addedBy);
    this.addedAtMs.push(loop.addedAtMs);
    this.tempoBpm.push(loop.tempoBpm ?? NaN);
    this.bars.push(loop.bars ?? NaN);
    this.beats.push(loop.beats ?? NaN);
    this.lengthSeconds.push(loop.lengthSeconds);
    this.loudnessLufs.push(loop.loudnessLufs ?? NaN);
    this.keys.push(loop.keyTonic === null ? -1 : loop.keyTonic * 2 + (loop.keyMode === 'minor' ? 1 : 0));
    this.pitched.push(loop.pitched === null ? 0 : loop.pitched ? 2 : 1);
    this.doubtful.push(loop.isDoubtful ? 1 : 0);
    this.isNotes.push(loop.media === 'midi' ? 1 : 0);
    this.kinds.push(loop.kind);
    this.instruments.push(loop.instrument);
    this.families.push(loop.family);
    this.meters.push(loop.meter);
    this.folders.push(loop.folder);
    this.packNames.push(loop.packName);
    this.vendors.push(loop.vendor);
    this.setStems.push(loop.setStem);
    this.licences.push(loop.licence);
    for (const [name, column] of this.facetColumns) column.push(loop.facets[name] ?? null);
    this.titles.push(titleKey(loop.title));
    this.likeness.append(
      loop.likeness ? new Int8Array(loop.likeness.buffer, loop.likeness.byteOffset, likenessLength) : null,
      likenessLength,
    );
    this.hasLikeness.push(loop.likeness ? 1 : 0);
    this.profiles.append(loop.profile?.length === profileLength ? loop.profile : null, profileLength);
    const profile = new ProfileReader(this.profiles.data, slot * profileLength);
    this.packs.push(loop.packId);
    this.sets.push(loop.setId ?? 0);
    this.tempoBins.push(loop.tempoBpm === null ? NaN : Math.floor(loop.tempoBpm / tempoBinBpm) * tempoBinBpm);
    this.colourCells.push(profile.isKnown ? colourCellOf(profile.brightnessOctaves, profile.density) : NaN);
    this.words.add(slot, new Set(wordsIn(loop.searchText)));
    if (slot >= this.alive.length * 32) {
      const next = newBits(slot * 2);
      next.set(this.alive);
      this.alive = next;
    }
    setBit(this.alive, slot);
    this.slotOf.set(loop.id, slot);
  }

  /** Takes a loop out; one that is not there is no matter. */
  drop(id: number): void {
    if (this.kill(id)) this.version++;
  }

  private kill(id: number): boolean {
    const slot = this.slotOf.get(id);
    if (slot === undefined) return false;
    clearBit(this.alive, slot);
    this.slotOf.delete(id);
    this.dead++;
    return true;
  }

  slotOfId = (id: number): number | undefined => this.slotOf.get(id);
  isAlive = (slot: number): boolean => ((this.alive[slot >>> 5] >>> (slot & 31)) & 1) === 1;

  /** Bits of all that are alive, for the caller to keep. */
  aliveBits(): Bits {
    return this.alive.slice(0, (this.length + 31) >>> 5);
  }
  aliveSlots(): Uint32Array {
    const bits = this.aliveBits();
    return slotsOf(bits, countBits(bits));
  }
  /** Bits for as many slots as there are. */
  emptyBits = (): Bits => newBits(this.length);

  /** Bits of loops by id; ids that are not there are no matter. */
  bitsOfIds(ids: ArrayLike<number>): Bits {
    const bits = this.emptyBits();
    for (let k = 0; k < ids.length; k++) {
      const slot = this.slotOf.get(ids[k]);
      if (slot !== undefined) setBit(bits, slot);
    }
    return bits;
  }

  /** Bits of the slots of which something holds. */
  bitsWhere(holds: (slot: number) => boolean): Bits {
    const bits = this.emptyBits();
    for (let slot = 0; slot < this.length; slot++) if (holds(slot)) bits[slot >>> 5] |= 1 << (slot & 31);
    return bits;
  }

  /** Bits of the slots whose text in a column is wanted. */
  bitsOfTexts(column: FacetColumn, isWanted: (text: string) => boolean): Bits {
    const { texts } = column.dictionary,
      wanted = Uint8Array.from(texts, (text, code) => (code > 0 && isWanted(text) ? 1 : 0)),
      bits = this.emptyBits();
    if (wanted.includes(1)) column.mark(bits, this.length, wanted);
    return bits;
  }

  /** What a licence says, by its text. */
  private licenceOf(text: string): number {
    let bits = this.licenceBits.get(text);
    if (bits === undefined) {
      bits = licenceUses.reduce((sum, use, k) => {
        const allowed = licenceAllows(text, use);
        return sum | ((allowed === null ? 0 : allowed ? 1 : 2) << (2 * k));
      }, 0);
      this.licenceBits.set(text, bits);
    }
    return bits;
  }

  /** A loop as fit sees it, moved from slot to slot: one object for a million of them. */
  reader(): SlotReader {
    return new SlotReader(this, (slot) => this.licenceOf(this.licences.textAt(slot) ?? ''));
  }
}

/** The title as lists are ordered by it: small letters without accents, and numbers by their size. @example titleKey('Take 9') < titleKey('Take 10') // => true */
export const titleKey = (title: string): string => fold(title).replace(/\d{1,9}/g, (digits) => digits.padStart(9, '0'));

class SlotReader implements FitLoop {
  private slot = 0;
  readonly profile: ProfileReader;
  private readonly keyObjects = Array.from({ length: 24 }, (_, code) => ({
    tonic: code >> 1,
    mode: code % 2 ? ('minor' as const) : ('major' as const),
  }));
  constructor(
    private readonly index: LibraryIndex,
    private readonly licence: (slot: number) => number,
  ) {
    this.profile = new ProfileReader(index.profiles.data);
  }
  at(slot: number): this {
    this.slot = slot;
    this.profile.bytes = this.index.profiles.data;
    this.profile.offset = slot * profileLength;
    return this;
  }
  get loopId(): number {
    return this.index.ids.data[this.slot];
  }
  get tempoBpm(): number | null {
    return orNull(this.index.tempoBpm.data[this.slot]);
  }
  get key(): FitLoop['key'] {
    const code = this.index.keys.data[this.slot];
    return code < 0 ? null : this.keyObjects[code];
  }
  get pitched(): boolean | null {
    const code = this.index.pitched.data[this.slot];
    return code === 0 ? null : code === 2;
  }
  get family(): Family | null {
    const text = this.index.families.textAt(this.slot);
    return text !== null && text in families ? (text as Family) : null;
  }
  get kind(): LoopKind {
    return this.index.kinds.textAt(this.slot) as LoopKind;
  }
  get instrument(): string | null {
    return this.index.instruments.textAt(this.slot);
  }
  get bars(): number | null {
    return orNull(this.index.bars.data[this.slot]);
  }
  get beats(): number | null {
    return orNull(this.index.beats.data[this.slot]);
  }
  get meter(): string | null {
    return this.index.meters.textAt(this.slot);
  }
  get barBeats(): number {
    return loopBarBeats(this);
  }
  get setId(): number | null {
    return this.index.sets.at(this.slot) || null;
  }
  get packId(): number {
    return this.index.packs.at(this.slot);
  }
  allows = (use: LicenceUse): boolean | null => {
    const code = (this.licence(this.slot) >> (2 * licenceUses.indexOf(use))) & 3;
    return code === 0 ? null : code === 1;
  };
}

const orNull = (value: number): number | null => (Number.isNaN(value) ? null : value);
