import { useEffect, useState } from 'react';
import { refusalOf } from '~/ui/api';
import { useLive, useLiveOpen } from '~/ui/live';
import { toast } from '~/ui/toast';

/** What an address of the API answers, asked anew whenever something beside the project's tree changes. */
export function useAsked<T>(projectId: number, address: string): T | null {
  const [found, setFound] = useState<T | null>(null),
    [asked, setAsked] = useState(0);
  useEffect(() => {
    let gone = false;
    const take = async (response: Response) => {
      const answer = response.ok ? ((await response.json()) as T) : null;
      if (!gone && answer) setFound(answer);
    };
    void fetch(address).then(take, () => null);
    return () => {
      gone = true;
    };
  }, [address, asked]);
  useLive('project-room', (event) => {
    if (event.projectId === projectId) setAsked((count) => count + 1);
  });
  // What was told while the stream was broken is made up for.
  useLiveOpen((again) => void (again && setAsked((count) => count + 1)));
  return found;
}

/** Asks the server for a change, and says what it refuses. @returns what it answered, null when it was refused */
export async function ask<T = object>(
  address: string,
  method: 'POST' | 'PUT' | 'DELETE',
  form: Readonly<Record<string, string>> = {},
): Promise<T | null> {
  const response = await fetch(address, { method, ...(method === 'DELETE' ? {} : { body: new URLSearchParams(form) }) }).catch(() => null),
    answer: unknown = await response?.json().catch(() => null);
  if (response?.ok) return answer as T;
  toast.error(refusalOf(answer) ?? 'The server did not answer.');
  return null;
}
