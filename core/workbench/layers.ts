import { filterSignal, passFilter } from '../dsp/biquad';
import { stereoPanGains } from '../mix/pan';
import { fitCycle, fitOnce } from '../stretch/fit';
import { dbToRatio } from '../units/level';
import { framesPerBeat, projectRateHz } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';

/** A copy of the sound that is laid over it. */
export interface Layer {
  readonly semitones: number;
  readonly gainDb: number;
  /** −1 left … 1 right. */
  readonly pan: number;
  readonly delayBeats: number;
  readonly lowCutHz: number | null;
}

export interface LayersStep {
  readonly kind: 'layers';
  readonly layers: readonly Layer[];
}

/** Only the layers sound: one of 0 semitones is the sound itself. What goes round goes round in each; a delay without a tempo counts half seconds. */
export function layered(sound: BenchSound, { layers }: LayersStep): BenchSound {
  const total = framesOf(sound),
    beatFrames = sound.tempoBpm ? framesPerBeat(sound.tempoBpm, projectRateHz) : projectRateHz / 2,
    longest = sound.isCycle ? 0 : Math.max(0, ...layers.map(({ delayBeats }) => Math.round(delayBeats * beatFrames))),
    out = [new Float32Array(total + longest), new Float32Array(total + longest)];
  for (const { semitones, gainDb, pan, delayBeats, lowCutHz } of layers) {
    const plan = { stretchMode: 'tonal' as const, targetFrames: total, shiftSemitones: semitones, beats: sound.beats ?? 0 },
      moved = (sound.isCycle ? fitCycle : fitOnce)(sound.channels, sound.onsetFrames, plan),
      cut = moved.map((plane) => (lowCutHz === null ? plane : filterSignal(plane, passFilter('high', lowCutHz, projectRateHz)))),
      [left, right = left] = cut,
      [ll, rl, lr, rr] = stereoPanGains(pan),
      gain = dbToRatio(gainDb),
      delay = Math.round(delayBeats * beatFrames);
    for (let i = 0; i < total; i++) {
      const at = sound.isCycle ? (((i + delay) % total) + total) % total : i + delay;
      if (at < 0 || at >= out[0].length) continue;
      out[0][at] += (left[i] * ll + right[i] * rl) * gain;
      out[1][at] += (left[i] * lr + right[i] * rr) * gain;
    }
  }
  return { ...sound, channels: out };
}
