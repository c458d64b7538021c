/**
 * Where a list of rows of one height has to be scrolled to for a row to be whole in view: not at all when it is, else by as little as it takes.
 * From numbers the list knows already: to ask the page for them while it changes makes the browser lay it out in between.
 */
export function revealedTop(index: number, { rowHeight, top, height }: { rowHeight: number; top: number; height: number }): number {
  const rowTop = index * rowHeight,
    lowest = rowTop + rowHeight - height;
  return Math.max(0, rowTop < top ? rowTop : Math.max(top, lowest));
}
