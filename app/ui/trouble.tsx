import type { ReactNode } from 'react';
import { isRouteErrorResponse } from 'react-router';
import { refusalOf } from './ask';

/** What a page or the API says is wrong: a refusal of the API comes as its text. */
function wordsOf(said: unknown): string {
  if (typeof said !== 'string') return refusalOf(said) ?? '';
  try {
    return refusalOf(JSON.parse(said)) ?? said;
  } catch {
    return said;
  }
}

/** What is said instead of a page that is not there or went wrong, and the way out of it. */
export function Trouble({ error, children }: { error: unknown; children: ReactNode }) {
  const known = isRouteErrorResponse(error);
  return (
    <div className="mx-auto mt-24 max-w-lg p-6">
      <h1>{known && error.status === 404 ? 'There is nothing here' : 'Something went wrong'}</h1>
      <p className="mt-2">{known ? wordsOf(error.data) || error.statusText : 'An unexpected error. Nothing you had saved is lost.'}</p>
      <p className="mt-4">{children}</p>
    </div>
  );
}
