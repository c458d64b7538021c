/**
 * A list may be taller than the longest element a browser can show (16 to 33 million pixels). Its scroller is no longer than that; where the list
 * is, is reckoned apart: a small step moves by as many pixels, a drag of the bar by its share of the whole.
 */
export const mostScrollPx = 8_000_000;

export interface TallPlace {
  /** Pixels of the list above its window. */
  readonly listTop: number;
  /** Where the scroller stands. */
  readonly scrollTop: number;
}

interface TallSizes {
  readonly listPx: number;
  readonly viewPx: number;
}

/** How tall the scroller's content is. */
export const scrollPx = (listPx: number): number => Math.min(listPx, mostScrollPx);

const clamp = (value: number, most: number): number => Math.max(0, Math.min(Math.max(0, most), value));

/** Where the list is when the scroller was moved to a place. */
export function afterScroll({ listTop, scrollTop: before }: TallPlace, scrollTop: number, { listPx, viewPx }: TallSizes): TallPlace {
  const most = scrollPx(listPx) - viewPx,
    mostList = listPx - viewPx;
  if (listPx <= mostScrollPx) return { listTop: scrollTop, scrollTop };
  const delta = scrollTop - before,
    isSmall = Math.abs(delta) < viewPx * 2,
    moved = isSmall ? clamp(listTop + delta, mostList) : clamp((scrollTop / most) * mostList, mostList);
  // At the scroller's ends the list is at its own.
  if (scrollTop <= 0) return { listTop: isSmall && listTop > viewPx * 2 ? moved : 0, scrollTop };
  if (scrollTop >= most - 0.5) return { listTop: isSmall && mostList - listTop > viewPx * 2 ? moved : mostList, scrollTop };
  return { listTop: moved, scrollTop };
}

/** Where the scroller has to stand for a place in the list: near, so that small steps go on; else at its share. */
export function toListTop(wanted: number, sizes: TallSizes): TallPlace {
  const mostList = sizes.listPx - sizes.viewPx,
    listTop = clamp(wanted, mostList),
    most = scrollPx(sizes.listPx) - sizes.viewPx;
  if (sizes.listPx <= mostScrollPx) return { listTop, scrollTop: listTop };
  return { listTop, scrollTop: mostList <= 0 ? 0 : (listTop / mostList) * most };
}
