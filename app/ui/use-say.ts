import { useSubmit } from 'react-router';
import { api, putOrDelete } from './api';

/** Says what a person thinks of a loop. Each thing goes its own way: what is said next, of it or of another loop, doesn't call it back. */
export function useSay() {
  const submit = useSubmit(),
    send = (what: string, action: string, method: 'put' | 'delete', fields: Record<string, string> = {}) =>
      void submit(fields, { method, action, navigate: false, fetcherKey: `${what} ${action}` });
  return {
    favourite: (loopId: number, isFavourite: boolean) => send('favourite', api.favourite(loopId), putOrDelete(isFavourite)),
    /** @param stars null takes them away */
    stars: (loopId: number, stars: number | null) =>
      send('stars', api.rating(loopId), 'put', { stars: stars === null ? '' : String(stars) }),
    note: (loopId: number, note: string) => send('note', api.rating(loopId), 'put', { note }),
  };
}
