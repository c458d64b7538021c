import { api, putOrDelete } from './api';
import { askOrTell, withForm, type Fields } from './ask';

/** What was said of one thing is sent before what is said of it next, so that the last word stays. */
const lines = new Map<string, Promise<unknown>>();

async function inLine(address: string, method: 'put' | 'delete', fields: Fields): Promise<boolean> {
  const before = lines.get(address) ?? Promise.resolve(),
    own = before.then(() => askOrTell(address, withForm(method, fields), 'It could not be kept. Please try again.'));
  lines.set(address, own);
  const isKept = (await own) !== null;
  if (lines.get(address) === own) lines.delete(address);
  return isKept;
}

/** Says what a person thinks of a loop. @returns whether it is kept; what is not is told */
export const opinions = {
  favourite: (loopId: number, isFavourite: boolean): Promise<boolean> => inLine(api.favourite(loopId), putOrDelete(isFavourite), {}),
  /** @param stars null takes them away */
  stars: (loopId: number, stars: number | null): Promise<boolean> =>
    inLine(api.rating(loopId), 'put', { stars: stars === null ? '' : String(stars) }),
  note: (loopId: number, note: string): Promise<boolean> => inLine(api.rating(loopId), 'put', { note }),
};
