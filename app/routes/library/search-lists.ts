import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
import type { KeptSearch } from '~server/services/searches.server';

export interface SearchLists {
  readonly searches: readonly KeptSearch[];
  readonly recent: readonly string[];
}

const store = createStore<{ readonly lists: SearchLists | null }>(() => ({ lists: null })),
  inOrder = askingInOrder();

/** Asks for them anew; where the server does not answer they stay as they are. */
export async function refreshSearches(): Promise<void> {
  const lists = await inOrder<SearchLists>(api.searches);
  if (lists) store.setState({ lists });
}

/** Kept searches and the latest, the same wherever they are shown; null until they are there. */
export function useSearchLists(): SearchLists | null {
  useEffect(() => void refreshSearches(), []);
  return useStore(store, ({ lists }) => lists);
}
