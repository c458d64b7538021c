import { Interval, Scale } from 'tonal';
import { keptByKey } from '../kept/kept';
import { pitchClass } from '../units/pitch';
import { scaleNameOf, type ChurchMode, type Key, type Mode } from './key';

const steps = keptByKey((name: Mode | ChurchMode): readonly number[] =>
  Scale.get(name).intervals.map((interval) => Interval.semitones(interval)),
);

/** Semitones of a scale above its tonic, by `tonal`; minor is the natural minor. @example scaleSemitones('minor') // => [0, 2, 3, 5, 7, 8, 10] */
export const scaleSemitones = (name: Mode | ChurchMode): readonly number[] => steps(name);

/** Pitch classes of a key from its tonic upwards. */
export const scaleClasses = (key: Key): readonly number[] => scaleSemitones(scaleNameOf(key)).map((step) => pitchClass(step + key.tonic));
