import type { Truth } from '../../training/truth';

/** A drum loop of four bars at 120, but for `changes`. */
export const drumLoopTruth = (changes: Partial<Truth>): Truth => ({
  file: 'a',
  style: 's',
  family: 'drums',
  instrument: 'kit',
  isLoop: true,
  tempo: 120,
  tempoScored: true,
  bars: 4,
  beats: 16,
  meter: '4/4',
  key: null,
  keyStatus: 'atonal',
  tuningCents: 0,
  lengthSec: 8,
  musicSec: 8,
  leadSec: 0,
  endDeltaSec: 0,
  cond: [],
  packName: '',
  packPath: '',
  ...changes,
});
