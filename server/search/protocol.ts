import type { Answer, Question } from '~core/search/index/finder';
import type { OwnInstrument } from '~core/theory/instruments';

/** What the thread of the index is asked, and what it says. */
export type ToFinder =
  | { readonly kind: 'ask'; readonly turn: number; readonly question: Question }
  | { readonly kind: 'instruments'; readonly own: readonly OwnInstrument[] };

export type FromFinder =
  | { readonly kind: 'reading'; readonly loops: number }
  | { readonly kind: 'ready'; readonly loops: number; readonly ms: number; readonly bytes: number }
  | { readonly kind: 'answer'; readonly turn: number; readonly answer: Answer }
  | { readonly kind: 'failed'; readonly turn: number; readonly message: string };
