import type { ToneFrames } from '../listen/tones';

const bandCount = 33,
  lowestHz = 300,
  highestHz = 2000,
  /** Frames so much quieter than the loudest hold noise and no sound. */
  silenceShare = 1e-5;

/**
 * 32 bits each 93 ms by which the same recording is known again, louder, cut or coded otherwise: whether energy moves up or down between
 * neighbouring bands from one frame to the next (Haitsma & Kalker 2002, from memory; 33 bands from 300 Hz to 2 kHz). Read off the spectra
 * that notes are heard from, so it costs next to nothing. 0 stands for silence.
 */
export function fingerprint(tones: ToneFrames): Uint32Array {
  const { frameCount, bins, binHz, magnitudes } = tones,
    edges = Array.from({ length: bandCount + 1 }, (_, k) =>
      Math.min(bins - 1, Math.round((lowestHz * (highestHz / lowestHz) ** (k / bandCount)) / binHz)),
    ),
    words = new Uint32Array(Math.max(0, frameCount - 1));
  let loudest = 0;
  const energies = Array.from({ length: frameCount }, (_, frame) => {
    const bands = new Float64Array(bandCount);
    let all = 0;
    for (let band = 0; band < bandCount; band++) {
      for (let bin = edges[band]; bin < edges[band + 1]; bin++) bands[band] += magnitudes[frame * bins + bin] ** 2;
      all += bands[band];
    }
    loudest = Math.max(loudest, all);
    return { bands, all };
  });
  for (let frame = 1; frame < frameCount; frame++) {
    const { bands: now, all } = energies[frame],
      { bands: before } = energies[frame - 1];
    if (all < loudest * silenceShare || loudest === 0) continue;
    let word = 0;
    for (let bit = 0; bit < 32; bit++) if (now[bit] - now[bit + 1] > before[bit] - before[bit + 1]) word |= 1 << bit;
    words[frame - 1] = word >>> 0 || 1;
  }
  return words;
}

const bitsOf = (word: number): number => {
  let v = word - ((word >>> 1) & 0x55555555);
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
  return (((v + (v >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
};

export interface FingerprintMatch {
  /** Share of bits that differ where both sound: 0 for the same, about a half for strangers. */
  readonly differing: number;
  /** By how many frames the second begins later than the first. */
  readonly offsetFrames: number;
  readonly comparedFrames: number;
}

/** Fewer frames than this prove nothing. */
export const fewestFrames = 12;
/** Below this two prints are of the same recording: strangers of the demo lie above 0.4 at their best offset. */
export const sameBelow = 0.34;

/** The best agreement of two prints at any offset at which most of the shorter one is compared; null when there is too little of either. */
export function compareFingerprints(a: Uint32Array, b: Uint32Array): FingerprintMatch | null {
  const least = Math.max(fewestFrames, Math.floor(Math.min(a.length, b.length) * 0.75));
  let best: FingerprintMatch | null = null;
  for (let offset = least - b.length; offset <= a.length - least; offset++) {
    let bits = 0,
      frames = 0;
    for (let k = Math.max(0, offset), to = Math.min(a.length, b.length + offset); k < to; k++) {
      const one = a[k],
        other = b[k - offset];
      if (one === 0 || other === 0) continue;
      bits += bitsOf((one ^ other) >>> 0);
      frames++;
    }
    if (frames < least * 0.6 || frames < fewestFrames) continue;
    const differing = bits / (32 * frames);
    if (!best || differing < best.differing) best = { differing, offsetFrames: offset, comparedFrames: frames };
  }
  return best;
}
