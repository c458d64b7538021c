/** Rows as they were just put by hand: those that are named in that order, those that have come since behind them, in their own. */
export function inLocalOrder<T extends { readonly id: number }>(rows: readonly T[], ids: readonly number[] | null): readonly T[] {
  if (ids === null) return rows;
  const places = new Map(ids.map((id, place) => [id, place])),
    placeOf = ({ id }: T) => places.get(id) ?? ids.length;
  return [...rows].sort((a, b) => placeOf(a) - placeOf(b));
}
