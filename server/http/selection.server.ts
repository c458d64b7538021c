import type { Selection } from '../services/changes/changes.server';

/** Which loops a form means: `ids` with commas, or the `address` of a search; null for neither. */
export function readSelection(form: FormData): Selection | null {
  const ids = String(form.get('ids') ?? ''),
    address = form.get('address');
  if (address !== null) return { address: String(address) };
  if (!/^\d[\d,]*$/.test(ids)) return null;
  return {
    ids: ids
      .split(',')
      .map(Number)
      .filter((id) => id > 0 && id < 2 ** 31),
  };
}
