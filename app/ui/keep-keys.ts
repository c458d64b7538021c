/** Keys pressed in a part of the page are its own; the space bar, and what undoes, stay the room's. */
export function keepKeys(event: React.KeyboardEvent): void {
  if (event.key !== ' ' && !event.ctrlKey && !event.metaKey) event.stopPropagation();
}
