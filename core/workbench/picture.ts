import { powerFrames, toMono } from '../dsp/spectrogram';
import { powerToDb } from '../units/level';
import { projectRateHz } from '../units/time';

const size = 2048,
  rows = 96,
  lowestHz = 40,
  highestHz = 16_000,
  floorDb = -84;

/** A picture of a sound: loudness by frequency over time. */
export interface SoundPicture {
  readonly columns: number;
  readonly rows: number;
  /** Column by column, low frequencies first; 0 for −84 dB and less, 255 for full scale. */
  readonly bytes: Uint8Array;
}

/** The spectrogram of a sound in so many columns, its rows equally far apart in octaves. `loadTransforms` comes first. */
export function soundPicture(channels: readonly Float32Array[], columns = 900): SoundPicture {
  const mono = toMono(channels),
    hop = Math.max(64, Math.ceil(mono.length / columns)),
    bins = size / 2 + 1,
    edges = Array.from({ length: rows + 1 }, (_, row) => (lowestHz * (highestHz / lowestHz) ** (row / rows) * size) / projectRateHz),
    made = Math.max(1, Math.ceil(mono.length / hop)),
    bytes = new Uint8Array(made * rows);
  powerFrames(mono, size, hop, bins, (frame, power) => {
    for (let row = 0; row < rows; row++) {
      const from = Math.floor(edges[row]),
        to = Math.min(bins, Math.max(from + 1, Math.ceil(edges[row + 1])));
      let most = 0;
      for (let bin = from; bin < to; bin++) most = Math.max(most, power[bin]);
      bytes[frame * rows + row] = Math.max(0, Math.min(255, Math.round((255 * (powerToDb(most + 1e-12) - floorDb)) / -floorDb)));
    }
  });
  return { columns: made, rows, bytes };
}
