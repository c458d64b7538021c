import { filterSignal, passFilter } from '../dsp/biquad';
import { dbToRatio } from '../units/level';

type Stereo = [Float32Array, Float32Array];

/** Soft saturation; `drive` 0 leaves the sound alone, 1 is clearly heard. Level is kept at small amplitudes. */
export function saturate(sound: Stereo, drive: number): void {
  if (drive <= 0) return;
  const amount = 1 + 4 * drive;
  for (const plane of sound) for (let i = 0; i < plane.length; i++) plane[i] = Math.tanh(plane[i] * amount) / amount ** 0.6;
}

const combSeconds = [0.0297, 0.0371, 0.0411, 0.0437],
  allPassSeconds = [0.005, 0.0017];

/**
 * A small room (Schroeder 1962: four combs and two all-passes a side, slightly different left and right), added at `wet`.
 * With `cyclic` the sound is run through twice, so that its end rings into its start.
 */
export function room(sound: Stereo, rateHz: number, wet: number, decaySeconds: number, cyclic: boolean): void {
  if (wet <= 0) return;
  sound.forEach((plane, side) => {
    const length = plane.length,
      cycles = cyclic ? 2 : 1,
      reverb = new Float32Array(length);
    const combs = combSeconds.map((seconds) => {
      const frames = Math.round((seconds + side * 0.0007) * rateHz);
      return { line: new Float32Array(frames), at: 0, gain: 10 ** ((-3 * (frames / rateHz)) / decaySeconds), damp: 0 };
    });
    const passes = allPassSeconds.map((seconds) => ({ line: new Float32Array(Math.round((seconds + side * 0.0003) * rateHz)), at: 0 }));
    for (let cycle = 0; cycle < cycles; cycle++)
      for (let i = 0; i < length; i++) {
        let sum = 0;
        for (const comb of combs) {
          const read = comb.line[comb.at];
          comb.damp += 0.45 * (read - comb.damp);
          comb.line[comb.at] = plane[i] + comb.damp * comb.gain;
          comb.at = (comb.at + 1) % comb.line.length;
          sum += read;
        }
        for (const pass of passes) {
          const read = pass.line[pass.at],
            fed = sum + read * 0.6;
          pass.line[pass.at] = fed;
          sum = read - fed * 0.6;
          pass.at = (pass.at + 1) % pass.line.length;
        }
        reverb[i] = sum * 0.25;
      }
    const clean = filterSignal(reverb, passFilter('high', 180, rateHz));
    for (let i = 0; i < length; i++) plane[i] += clean[i] * wet;
  });
}

/** Takes the mean away from each side; a loop's own mean, so that the seam stays. */
export function removeDc(sound: Stereo): void {
  for (const plane of sound) {
    let mean = 0;
    for (const value of plane) mean += value;
    mean /= plane.length || 1;
    for (let i = 0; i < plane.length; i++) plane[i] -= mean;
  }
}

/** Scales to a sample peak in dBFS. Silence stays. */
export function scaleToPeak(sound: Stereo, peakDbfs: number): void {
  let peak = 0;
  for (const plane of sound) for (const value of plane) peak = Math.max(peak, Math.abs(value));
  if (peak === 0) return;
  const gain = dbToRatio(peakDbfs) / peak;
  for (const plane of sound) for (let i = 0; i < plane.length; i++) plane[i] *= gain;
}
