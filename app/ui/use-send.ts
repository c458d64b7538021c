import { useCallback } from 'react';
import { askOrTell, withForm, type Fields } from './ask';
import { useRenewal } from './use-renewal';

export type Send = <T = unknown>(address: string, method: 'post' | 'put' | 'delete', fields?: Fields) => Promise<T | null>;

/**
 * Sends what a person wants to the API, and asks for the page's data anew when it is done. What is refused is told, and where the server does not
 * answer the page stays as it is: a router's fetcher would put its error in the page's place.
 */
export function useSend(): Send {
  const renew = useRenewal();
  return useCallback<Send>(
    async <T>(address: string, method: 'post' | 'put' | 'delete', fields: Fields = {}) => {
      const answer = await askOrTell<T>(address, withForm(method, fields));
      if (answer !== null) void renew();
      return answer;
    },
    [renew],
  );
}
