export type LoopKind = 'loop' | 'one-shot' | 'phrase' | 'full-mix';
export const loopKinds: Readonly<Record<LoopKind, string>> = {
  loop: 'Loop',
  'one-shot': 'One-shot',
  phrase: 'Phrase',
  'full-mix': 'Full mix',
};
