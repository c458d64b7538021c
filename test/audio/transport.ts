import type { Transport } from '../../app/audio/transport';

/** 4/4 at 120, playing on from beat 0 at frame 0 of the audio thread, unless a test says otherwise. A beat is 22,050 frames. */
export const transportAt = (changes: Partial<Transport> = {}): Transport => ({
  originFrame: 0,
  originBeat: 0,
  tempoBpm: 120,
  barBeats: 4,
  range: null,
  sampleRateHz: 44100,
  ...changes,
});
