import { createRandom } from '../../core/synth/random';
import { rateHz } from './signals';

/**
 * A plain drummed loop: a low drum on the first beat of every bar, a snap on the other beats, light ticks on the eighths between.
 * @param barBeats may be 3.5: then the snaps lie on the quarters and the bar ends an eighth early
 */
export function drummed(barBeats: number, bars: number, tempoBpm: number): Float32Array {
  const random = createRandom(7),
    eighthFrames = (30 / tempoBpm) * rateHz,
    perBar = Math.round(barBeats * 2),
    out = new Float32Array(Math.round(perBar * bars * eighthFrames));
  const add = (at: number, length: number, sound: (i: number) => number) => {
    for (let i = 0; i < length && at + i < out.length; i++) out[at + i] += sound(i);
  };
  for (let k = 0; k < perBar * bars; k++) {
    const at = Math.round(k * eighthFrames),
      place = k % perBar;
    if (place === 0)
      add(at, 8000, (i) => 0.8 * Math.sin((2 * Math.PI * (50 + 60 * Math.exp(-i / 900)) * i) / rateHz) * Math.exp(-i / 3000));
    else if (place % 2 === 0) add(at, 6000, (i) => 0.3 * (random() * 2 - 1) * Math.exp(-i / 700));
    add(at, 2000, (i) => 0.08 * (random() * 2 - 1) * Math.exp(-i / 300));
  }
  return out;
}
