import { useMemo } from 'react';
import { useRevalidator } from 'react-router';
import { oneAfterAnother } from './one-after-another';

/** Asks for the data of the page anew, one asking after the other. */
export function useRenewal(): () => Promise<void> {
  const { revalidate } = useRevalidator();
  return useMemo(() => oneAfterAnother(revalidate), [revalidate]);
}
