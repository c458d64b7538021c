import { Interval, Scale } from 'tonal';
import type { Mode } from './key';

const steps = (name: string): readonly number[] => Scale.get(name).intervals.map((interval) => Interval.semitones(interval));
const byMode: Readonly<Record<Mode, readonly number[]>> = { major: steps('major'), minor: steps('minor') };

/** Semitones of a mode's scale above its tonic, by `tonal`; minor is the natural minor. @example scaleSemitones('minor') // => [0, 2, 3, 5, 7, 8, 10] */
export const scaleSemitones = (mode: Mode): readonly number[] => byMode[mode];
