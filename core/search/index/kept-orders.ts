import { LRUCache } from 'lru-cache';
import type { SortColumn } from '../query';
import type { FacetColumn } from './columns';
import type { LibraryIndex } from './library-index';
import { mergeOrder, orderBy, type Order } from './order';

/** How a column is ordered: by numbers, or by texts. NaN and null come last either way. */
export type SortKey = { readonly number: (slot: number) => number } | { readonly text: (slot: number) => string | null };

const keptOrders = 12,
  /** Behind so many new loops an order is made anew instead of adding them. */
  mostAdded = 20_000;

/** Orders of a library in memory, each made once and then kept up with what comes and goes. */
export class KeptOrders {
  private readonly orders = new LRUCache<string, { version: number; length: number; order: Order }>({ max: keptOrders });
  private byId: { version: number; slots: Uint32Array } | null = null;
  constructor(private readonly index: LibraryIndex) {}

  /** The order by a key. @param cacheKey the same for the same key; null for one that is not kept */
  by(cacheKey: string | null, key: SortKey): Order {
    const { index } = this,
      kept = cacheKey === null ? undefined : this.orders.get(cacheKey);
    if (kept?.version === index.version) return kept.order;
    const capacity = index.length,
      byId = (a: number, b: number) => index.ids.data[a] - index.ids.data[b];
    let order: Order;
    if (kept && capacity - kept.length < mostAdded) {
      const added: number[] = [];
      for (let slot = kept.length; slot < capacity; slot++) if (index.isAlive(slot)) added.push(slot);
      const compare =
        'text' in key
          ? (a: number, b: number) => {
              const [x, y] = [key.text(a) ?? '', key.text(b) ?? ''];
              return x < y ? -1 : x > y ? 1 : byId(a, b);
            }
          : (a: number, b: number) => key.number(a) - key.number(b) || byId(a, b);
      order = mergeOrder(
        kept.order,
        index.isAlive,
        added,
        (slot) => ('text' in key ? key.text(slot) !== null : !Number.isNaN(key.number(slot))),
        compare,
        byId,
        capacity,
      );
    } else {
      const slots = this.slotsById();
      order = orderBy(slots, 'text' in key ? ranksOf(slots, key.text) : key.number, capacity);
    }
    if (cacheKey !== null) this.orders.set(cacheKey, { version: index.version, length: capacity, order });
    return order;
  }

  /** All that are alive, rising by id. */
  private slotsById(): Uint32Array {
    const { index } = this;
    if (this.byId?.version === index.version) return this.byId.slots;
    const slots = index.aliveSlots(),
      ids = index.ids.data,
      // As long as nothing has changed they are read in that order.
      isRising = slots.every((slot, k) => k === 0 || ids[slots[k - 1]] < ids[slot]);
    if (!isRising) slots.sort((a, b) => ids[a] - ids[b]);
    this.byId = { version: index.version, slots };
    return slots;
  }
}

/** How a column of the list is ordered. */
export function sortKeyOf(index: LibraryIndex, sort: SortColumn): SortKey {
  const texts = (column: FacetColumn) => ({ text: (slot: number) => column.textAt(slot) });
  switch (sort) {
    case 'title':
      return { text: (slot) => index.titles[slot] };
    case 'pack':
      return texts(index.packNames);
    case 'kind':
      return texts(index.kinds);
    case 'instrument':
      return {
        text: (slot) =>
          index.families.codeAt(slot) ? `${index.families.textAt(slot)} ${index.instruments.textAt(slot) ?? '\u{10ffff}'}` : null,
      };
    case 'tempo':
      return { number: (slot) => index.tempoBpm.data[slot] };
    case 'key':
      return { number: (slot) => (index.keys.data[slot] < 0 ? NaN : index.keys.data[slot]) };
    case 'bars':
      return { number: (slot) => index.bars.data[slot] };
    case 'length':
      return { number: (slot) => index.lengthSeconds.data[slot] };
    case 'loudness':
      return { number: (slot) => index.loudnessLufs.data[slot] };
    default:
      return { number: (slot) => index.addedAtMs.data[slot] };
  }
}

/** Texts as numbers that rise with them. */
function ranksOf(slots: Uint32Array, textOf: (slot: number) => string | null): (slot: number) => number {
  const texts = new Set<string>();
  for (const slot of slots) {
    const text = textOf(slot);
    if (text !== null) texts.add(text);
  }
  const rank = new Map([...texts].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0)).map((text, k) => [text, k]));
  return (slot) => {
    const text = textOf(slot);
    return text === null ? NaN : (rank.get(text) ?? NaN);
  };
}
