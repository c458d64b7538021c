import { shortestShift, type Key } from '../../theory/key';
import { scaleClasses } from '../../theory/scale';
import { pitchClass } from '../../units/pitch';

/**
 * A note of one key in another: by the shortest way from tonic to tonic, and on the same step of the other scale where the two have different steps.
 * What lies between two steps goes with the one below.
 * @example movedToKey(64, C major, D minor) // => 65: the third step, F
 */
export function movedToKey(pitch: number, from: Key, to: Key): number {
  const shift = shortestShift(from.tonic, to.tonic),
    source = scaleClasses(from),
    goal = scaleClasses(to),
    above = pitchClass(pitch - from.tonic),
    steps = source.map((each) => pitchClass(each - from.tonic)),
    step = steps.findLastIndex((each) => each <= above),
    moved = pitchClass(goal[step] - to.tonic) - steps[step];
  return pitch + shift + moved;
}

/** So many steps of a scale up or down; what lies between two steps keeps its distance to the one below. @example inScale(60, C major, 2) // => 64 */
export function movedInScale(pitch: number, key: Key, steps: number): number {
  const scale = scaleClasses(key).map((each) => pitchClass(each - key.tonic)),
    above = pitchClass(pitch - key.tonic),
    step = scale.findLastIndex((each) => each <= above),
    rest = above - scale[step],
    base = pitch - above,
    goal = step + steps,
    octave = Math.floor(goal / scale.length);
  return base + octave * 12 + scale[goal - octave * scale.length] + rest;
}
