import type { Reading } from '../../core/analysis/tempo/read-rhythm';

/** A reading in 4/4 of whole bars. */
export const reading = (tempoBpm: number, bars: number, startSeconds: number, probability: number): Reading => ({
  tempoBpm,
  bars,
  beats: bars * 4,
  meter: '4/4',
  startSeconds,
  probability,
});
