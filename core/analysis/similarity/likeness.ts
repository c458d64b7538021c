import weights from '../learned/weights/likeness.json';
import { readProjection } from './projection';

export const likenessLength = 32;
/** Steps of a unit in the kept bytes: ±8 units fit, in which the spread within one instrument is about 1. */
const stepsPerUnit = 16;

let projection: ReturnType<typeof readProjection> | null = null;

/**
 * A sound's colour as 32 signed bytes: near in them is near for the ear. Most of them are the directions of the timbre vector that part
 * instruments best (linear discriminants; Fisher 1936), the rest the widest directions within an instrument, such as dull and bright.
 * @param timbre see `timbreVector`
 */
export function likenessOf(timbre: ArrayLike<number>): Int8Array {
  projection ??= readProjection(weights);
  const { inputs, mean, deviation, rows } = projection;
  return Int8Array.from({ length: likenessLength }, (_, k) => {
    let sum = 0;
    for (let i = 0; i < inputs; i++) sum += rows[k * inputs + i] * Math.max(-6, Math.min(6, (timbre[i] - mean[i]) / (deviation[i] || 1)));
    return Math.max(-127, Math.min(127, Math.round(sum * stepsPerUnit)));
  });
}

/** How far apart two sounds are, in units of the spread within one instrument. */
export function unlikeness(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let k = 0; k < likenessLength; k++) sum += ((a[k] - b[k]) / stepsPerUnit) ** 2;
  return Math.sqrt(sum);
}
