import { cutRiseDb, pickFaint, pickOnsets, type OnsetRises } from './onsets';
import { sharpenOnsets } from './sharpen';

/** Where a sound can be cut, to the frame: at its clear hits, and at what may be one where one is expected. */
export function cutsOf(rises: OnsetRises, channels: readonly Float32Array[]): { clearFrames: number[]; faintFrames: number[] } {
  const clear = pickOnsets(rises, cutRiseDb);
  return {
    clearFrames: sharpenOnsets(channels, rises.sampleRateHz, clear),
    faintFrames: sharpenOnsets(channels, rises.sampleRateHz, pickFaint(rises, clear)),
  };
}
