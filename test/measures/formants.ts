import { partialAmplitudes } from './measures';

const rateHz = 44100;

const resonances = (hz: number, formantsHz: readonly number[]): number =>
  formantsHz.reduce((sum, centre, k) => sum + [1, 0.5, 0.25][k] / Math.sqrt(1 + ((hz - centre) / (45 + 15 * k)) ** 2), 0.002);

/**
 * A voice-like cycle: a pulse train with a little vibrato through three fixed resonances, so that its formants are known exactly. The pitch
 * is rounded so that a cycle holds whole periods.
 */
export function vowelCycle(pitchHz: number, formantsHz: readonly number[], seconds: number): Float32Array {
  const frames = Math.round(seconds * rateHz),
    hz = Math.round(pitchHz * seconds) / seconds,
    out = new Float32Array(frames);
  for (let harmonic = 1; harmonic * hz < 12000; harmonic++) {
    const amplitude = (0.2 * resonances(harmonic * hz, formantsHz)) / Math.sqrt(harmonic);
    for (let i = 0; i < frames; i++) out[i] += amplitude * Math.sin((2 * Math.PI * hz * harmonic * i) / rateHz + harmonic * harmonic);
  }
  return out;
}

/**
 * Centres of a vowel's formants, Hz: for each, the place (within a quarter) at which the model's resonance explains the levels of the
 * partials around it best, the others where they belong. Exact whatever the pitch, unlike the tops of an envelope.
 * @param pitchHz exactly
 */
export function formantsOf(signal: Float32Array, pitchHz: number, expectedHz: readonly number[]): number[] {
  const partials = Array.from({ length: Math.floor(Math.min(8000, expectedHz[2] * 1.8) / pitchHz) }, (_, k) => pitchHz * (k + 1)),
    found = partialAmplitudes(signal, partials).map((value) => Math.log(value + 1e-9));
  return expectedHz.map((centre, k) => {
    const near = partials.flatMap((f, h) => (f > centre * 0.6 && f < centre * 1.6 ? [{ f, h }] : []));
    let best = centre,
      bestCost = Infinity;
    for (let tried = centre * 0.75; tried <= centre * 1.25; tried *= 1.005) {
      const moved = expectedHz.map((each, other) => (other === k ? tried : each)),
        differences = near.map(({ f, h }) => found[h] - Math.log(resonances(f, moved) / Math.sqrt(h + 1))),
        mean = differences.reduce((sum, value) => sum + value, 0) / differences.length,
        cost = differences.reduce((sum, value) => sum + (value - mean) ** 2, 0);
      if (cost < bestCost) {
        bestCost = cost;
        best = tried;
      }
    }
    return best;
  });
}
