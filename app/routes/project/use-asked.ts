import { useEffect, useState } from 'react';
import { askingInOrder } from '~/ui/ask';
import { useLive } from '~/ui/live';

/** What an address of the API answers, asked anew whenever something beside the project's tree changes. */
export function useAsked<T>(projectId: number, address: string): T | null {
  const [found, setFound] = useState<{ readonly address: string; readonly answer: T } | null>(null),
    [inOrder] = useState(askingInOrder),
    [asked, setAsked] = useState(0);
  useEffect(() => {
    void inOrder<T>(address).then((answer) => answer !== null && setFound({ address, answer }));
  }, [inOrder, address, asked]);
  useLive('project-room', (event) => {
    if (event.projectId === projectId) setAsked((count) => count + 1);
  });
  // What was told while the stream was broken is made up for.
  useLive('missed', () => setAsked((count) => count + 1));
  return found?.address === address ? found.answer : null;
}
