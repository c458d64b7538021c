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

/** Adds what a damped comb gives for a sound that goes on from `startFrame`, round and round. */
function addComb(into: Float64Array, plane: Float32Array, startFrame: number, frames: number, gain: number): void {
  const line = new Float32Array(frames);
  let at = 0,
    damp = 0,
    from = startFrame;
  for (let i = 0; i < into.length; i++) {
    const read = line[at];
    damp += 0.45 * (read - damp);
    line[at] = plane[from] + damp * gain;
    if (++at === frames) at = 0;
    if (++from === plane.length) from = 0;
    into[i] += read;
  }
}

/** An all-pass, in place. */
function passThrough(sound: Float64Array, frames: number): void {
  const line = new Float32Array(frames);
  let at = 0;
  for (let i = 0; i < sound.length; i++) {
    const read = line[at],
      fed = sound[i] + read * 0.6;
    line[at] = fed;
    sound[i] = read - fed * 0.6;
    if (++at === frames) at = 0;
  }
}

/** How long a room must have heard a cycle's end before its start: three times the decay to a thousandth, which leaves −180 dB. */
const runUpDecays = 3;

/**
 * A small room (Schroeder 1962: four combs and two all-passes a side, slightly different left and right), added at `wet`.
 * With `cyclic` the sound's end has run through before its start, so that it rings into it.
 */
export function room(sound: Stereo, rateHz: number, wet: number, decaySeconds: number, cyclic: boolean): void {
  if (wet <= 0) return;
  sound.forEach((plane, side) => {
    const length = plane.length,
      runUpFrames = cyclic ? Math.min(length, Math.ceil(runUpDecays * decaySeconds * rateHz)) : 0,
      rung = new Float64Array(runUpFrames + length),
      reverb = new Float32Array(length);
    // One after the other over the whole sound: each line stays in the processor's nearest memory.
    for (const seconds of combSeconds) {
      const frames = Math.round((seconds + side * 0.0007) * rateHz);
      addComb(rung, plane, (length - runUpFrames) % length, frames, 10 ** ((-3 * (frames / rateHz)) / decaySeconds));
    }
    for (const seconds of allPassSeconds) passThrough(rung, Math.round((seconds + side * 0.0003) * rateHz));
    for (let i = 0; i < length; i++) reverb[i] = rung[runUpFrames + i] * 0.25;
    const clean = filterSignal(reverb, passFilter('high', 180, rateHz));
    for (let i = 0; i < length; i++) plane[i] += clean[i] * wet;
  });
}

/** Takes the mean away from each side; a loop's own mean, so that the seam stays. */
export function removeDc(sound: Stereo): void {
  for (const plane of sound) {
    let mean = 0;
    for (let i = 0; i < plane.length; i++) mean += plane[i];
    mean /= plane.length || 1;
    for (let i = 0; i < plane.length; i++) plane[i] -= mean;
  }
}

/** Scales to a sample peak in dBFS. Silence stays. */
export function scaleToPeak(sound: Stereo, peakDbfs: number): void {
  let peak = 0;
  for (const plane of sound)
    for (let i = 0; i < plane.length; i++) {
      const level = Math.abs(plane[i]);
      if (level > peak) peak = level;
    }
  if (peak === 0) return;
  const gain = dbToRatio(peakDbfs) / peak;
  for (const plane of sound) for (let i = 0; i < plane.length; i++) plane[i] *= gain;
}
