import { LRUCache } from 'lru-cache';
import type { Scene } from '../fit/scene';
import { fitScore, noFindings } from '../fit/score';
import type { FitWeights } from '../fit/weights';
import type { LoopQuery, Near } from '../query';
import { bestOf } from './best';
import { countBits, hasBit, intersect, slotsOf, type Bits } from './bits';
import type { ColourCell } from './colour-cells';
import { countFacetsOf, mapOf, type FoundMap } from './counts';
import type { LibraryIndex } from './library-index';
import { conditionsOf, meantIn, tiersOf, type Condition, type MatchContext } from './matching';
import { nearConditions, nearValues, type AskedWith } from './nearness';
import { KeptOrders, sortKeyOf } from './kept-orders';
import { turnedPlace, type Order } from './order';
import { rangeConditions } from './ranges';

/** What a question goes by beside the query. */
export interface FindContext extends Omit<MatchContext, 'meant'> {
  /** What sounds in the project; null without one. */
  readonly scene: Scene | null;
  /** The same for the same scene and weights. */
  readonly sceneKey: string;
  readonly weights: FitWeights;
  /** What is known of a sound that was asked with; null where none was. */
  readonly asked: AskedWith | null;
  /** When each loop was heard last by who asks: ids and milliseconds. */
  readonly heard: { readonly ids: readonly number[]; readonly atMs: readonly number[] };
}

export interface Question {
  readonly query: LoopQuery;
  readonly context: FindContext;
  readonly offset: number;
  /** 0 asks for no rows. */
  readonly limit: number;
  readonly wants: { readonly facets?: boolean; readonly map?: boolean; readonly groups?: GroupBy };
  /** Where the first row stands that is not before this text or number, in the order of the list. */
  readonly jumpTo?: string;
}
export type GroupBy = 'pack' | 'set';

export interface Answer {
  readonly ids: Int32Array;
  readonly total: number;
  readonly facets: Readonly<Record<string, readonly { readonly value: string; readonly count: number }[]>> | null;
  readonly colour: readonly ColourCell[] | null;
  readonly map: FoundMap | null;
  readonly groups: readonly Group[] | null;
  readonly meant: readonly (readonly [string, readonly string[]])[];
  readonly jumpedTo: number | null;
}
export interface Group {
  readonly id: number;
  readonly name: string;
  readonly count: number;
}

/** How many are kept. */
const keptBits = 64,
  keptScores = 12,
  /** Behind so many of the nearest the whole order is made. */
  mostBest = 3000;

/** Answers questions on a library in memory, and keeps what the next keystroke will want again. */
export class Finder {
  private bitsVersion = -1;
  private readonly bits = new LRUCache<string, Bits>({ max: keptBits });
  private readonly orders: KeptOrders;
  private readonly scores = new LRUCache<string, Float32Array>({ max: keptScores });
  private readonly nearKept = new LRUCache<string, { version: number; values: Float32Array }>({ max: 6 });
  private allCounts: { version: number; facets: Answer['facets']; colour: Answer['colour'] } | null = null;
  constructor(readonly index: LibraryIndex) {
    this.orders = new KeptOrders(index);
  }

  ask({ query, context, offset, limit, wants, jumpTo }: Question): Answer {
    const { index } = this,
      meant = meantIn(index, query.words),
      conditions = [
        ...conditionsOf(index, query, { ...context, meant }),
        ...rangeConditions(index, query, context.project),
        ...nearConditions(index, query.near),
      ].map(madeOnce),
      all = this.matching(conditions, null),
      total = countBits(all),
      page =
        limit > 0 || jumpTo !== undefined
          ? this.page(query, context, all, total, offset, limit, jumpTo)
          : { ids: new Int32Array(0), jumpedTo: null },
      counted = wants.facets ? this.counts(conditions, all, total) : { facets: null, colour: null };
    return {
      ids: page.ids,
      jumpedTo: page.jumpedTo,
      total,
      ...counted,
      map: wants.map ? mapOf(index, slotsOf(all, total), context.project) : null,
      groups: wants.groups ? this.groups(all, total, wants.groups, this.orderOf(query, context), query.descending) : null,
      meant: [...meant],
    };
  }

  /** Slots that meet all conditions but those of one facet. */
  private matching(conditions: readonly Condition[], except: string | null): Bits {
    const bits = this.index.aliveBits();
    for (const condition of conditions) if (except === null || condition.facet !== except) intersect(bits, this.bitsOf(condition));
    return bits;
  }

  private bitsOf({ cacheKey, bits }: Condition): Bits {
    if (cacheKey === null) return bits();
    if (this.bitsVersion !== this.index.version) {
      this.bits.clear();
      this.bitsVersion = this.index.version;
    }
    const kept = this.bits.get(cacheKey) ?? bits();
    this.bits.set(cacheKey, kept);
    return kept;
  }

  private counts(conditions: readonly Condition[], all: Bits, total: number): Pick<Answer, 'facets' | 'colour'> {
    const { index } = this;
    if (conditions.length === 0 && this.allCounts?.version === index.version) return this.allCounts;
    const slots = slotsOf(all, total),
      own = new Set(conditions.flatMap(({ facet }) => facet ?? [])),
      others = new Map([...own].map((facet) => [facet, slotsOf(this.matching(conditions, facet))]));
    const counted = countFacetsOf(index, (facet) => others.get(facet) ?? slots);
    if (conditions.length === 0) this.allCounts = { version: index.version, ...counted };
    return counted;
  }

  /** One page: what is meant by the words first, where nobody asked for another order; within that by the order asked for. */
  private page(
    query: LoopQuery,
    context: FindContext,
    all: Bits,
    total: number,
    offset: number,
    limit: number,
    jumpTo: string | undefined,
  ): { ids: Int32Array; jumpedTo: number | null } {
    const { near } = query;
    if (query.sort === 'likeness' && near && query.descending && jumpTo === undefined && offset + limit <= mostBest) {
      const values = this.nearIn(near, context);
      // What has no likeness comes behind all that has, by the way of the whole order.
      if (values) {
        const best = bestOf(slotsOf(all, total), values, offset + limit, (slot) => this.index.ids.data[slot]);
        if (best.length === Math.min(total, offset + limit)) return { ids: this.idsOf(best.slice(offset)), jumpedTo: null };
      }
    }
    const order = this.orderOf(query, context);
    if (jumpTo !== undefined) {
      const jumpedTo = this.jump(query, order, jumpTo, all);
      return { ids: this.idsOf(this.rowsOf(order, query.descending, all, total, jumpedTo, limit)), jumpedTo };
    }
    const found: number[] = [];
    let skip = offset;
    for (const tier of query.sort === 'added' ? tiersOf(this.index, query.words, all) : [all]) {
      const count = tier === all ? total : countBits(tier);
      if (skip < count) found.push(...this.rowsOf(order, query.descending, tier, count, skip, limit - found.length));
      skip = Math.max(0, skip - count);
      if (found.length >= limit) break;
    }
    return { ids: this.idsOf(found), jumpedTo: null };
  }

  /** Slots of a set in an order, from a place among them. */
  private rowsOf(order: Order, descending: boolean, bits: Bits, count: number, offset: number, limit: number): number[] {
    const { slots } = order,
      found: number[] = [],
      at = (place: number) => slots[descending ? turnedPlace(order, place) : place];
    if (count * 16 < slots.length) {
      // Few of many: their places are looked up, instead of walking past all the others.
      const places = this.placesOf(order, descending, bits, count);
      for (let k = offset; k < Math.min(count, offset + limit); k++) found.push(at(places[k]));
      return found;
    }
    let seen = 0;
    for (let place = 0; place < slots.length && found.length < limit; place++) {
      const slot = at(place);
      if (hasBit(bits, slot) && seen++ >= offset) found.push(slot);
    }
    return found;
  }

  private placesOf(order: Order, descending: boolean, bits: Bits, count: number): Uint32Array {
    const places = slotsOf(bits, count);
    for (let k = 0; k < count; k++) places[k] = descending ? turnedPlace(order, order.placeOf[places[k]]) : order.placeOf[places[k]];
    return places.sort();
  }

  /** How many of what is found stand before a letter or a number of the order. */
  private jump(query: LoopQuery, order: Order, to: string, all: Bits): number {
    const key = sortKeyOf(this.index, query.sort),
      at = (place: number) => order.slots[query.descending ? turnedPlace(order, place) : place],
      isBefore = (slot: number): boolean => {
        if ('text' in key) {
          const text = key.text(slot) ?? '';
          return query.descending ? text > `${to}\u{10ffff}` : text < to;
        }
        return query.descending ? key.number(slot) > Number(to) : key.number(slot) < Number(to);
      };
    let low = 0,
      high = order.knownCount;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (isBefore(at(middle))) low = middle + 1;
      else high = middle;
    }
    let count = 0;
    for (let place = 0; place < low; place++) if (hasBit(all, at(place))) count++;
    return count;
  }

  private idsOf = (slots: readonly number[]): Int32Array => Int32Array.from(slots, (slot) => this.index.ids.data[slot]);

  private groups(all: Bits, total: number, by: GroupBy, order: Order, descending: boolean): Group[] {
    const { index } = this,
      column = by === 'pack' ? index.packs : index.sets,
      counts = new Uint32Array(column.values.length),
      first = new Uint32Array(column.values.length).fill(order.slots.length),
      slots = slotsOf(all, total),
      codes: number[] = [];
    for (let k = 0; k < slots.length; k++) {
      const code = column.codeAt(slots[k]),
        at = order.placeOf[slots[k]],
        place = descending ? turnedPlace(order, at) : at;
      if (counts[code]++ === 0) codes.push(code);
      if (place < first[code]) first[code] = place;
    }
    const names = by === 'pack' ? index.packNames : index.setStems,
      { values } = column;
    return (
      codes
        // What is of no set stands behind all sets.
        .sort((a, b) => Number(values[a] === 0) - Number(values[b] === 0) || first[a] - first[b])
        .map((code) => {
          const slot = order.slots[descending ? turnedPlace(order, first[code]) : first[code]];
          return { id: values[code], name: values[code] === 0 ? '' : (names.textAt(slot) ?? ''), count: counts[code] };
        })
    );
  }

  /** Score of each slot in a scene: reckoned once, and for new slots as they come. */
  private scoresIn(scene: Scene, key: string, weights: FitWeights): Float32Array {
    const kept = this.scores.get(key),
      { length } = this.index;
    if (kept?.length === length) return kept;
    const scores = new Float32Array(length);
    if (kept) scores.set(kept);
    const reader = this.index.reader(),
      found = noFindings();
    for (let slot = kept?.length ?? 0; slot < length; slot++)
      if (this.index.isAlive(slot)) scores[slot] = fitScore(reader.at(slot), scene, weights, found);
    this.scores.set(key, scores);
    return scores;
  }

  /** How near each slot is to something, kept for the next page. */
  private nearIn(near: Near, context: FindContext): Float32Array | null {
    const key = JSON.stringify(near),
      kept = this.nearKept.get(key);
    if (kept?.version === this.index.version) return kept.values;
    const values = nearValues(this.index, near, context.asked);
    if (values) this.nearKept.set(key, { version: this.index.version, values });
    return values;
  }

  private orderOf(query: LoopQuery, context: FindContext): Order {
    const { sort, near } = query;
    if (sort === 'likeness' && near) {
      const values = this.nearIn(near, context);
      if (values) return this.orders.by(null, { number: (slot) => values[slot] });
    }
    if (sort === 'heard') {
      const atMs = new Map(context.heard.ids.map((id, k) => [id, context.heard.atMs[k]]));
      return this.orders.by(null, { number: (slot) => atMs.get(this.index.ids.data[slot]) ?? NaN });
    }
    if (sort === 'fit' && context.scene) {
      const scores = this.scoresIn(context.scene, context.sceneKey, context.weights);
      return this.orders.by(`fit ${context.sceneKey}`, { number: (slot) => scores[slot] });
    }
    return this.orders.by(sort, sortKeyOf(this.index, sort));
  }
}

/** A condition is asked again for each facet that is counted without its own: what it comes to is made once. */
function madeOnce(condition: Condition): Condition {
  let made: Bits | null = null;
  return { ...condition, bits: () => (made ??= condition.bits()) };
}
