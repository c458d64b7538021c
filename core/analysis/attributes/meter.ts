import { meters, parseMeter } from '../../units/time';
import { repeating, usual, type Attribute } from './attribute';

/** `4/4`, `3/4`, `6/8`, or another one that somebody says; `unknown`: it is heard to be none of these three. */
export const meter: Attribute<string> = {
  ...usual,
  label: 'Meter',
  toText: (value) => value,
  fromText: (text) => (parseMeter(text) ? text : null),
  inWords: (value) => (value === 'unknown' ? 'unknown, none of 4/4, 3/4, 6/8' : value),
  choices: meters.map((value) => ({ value, label: value })),
  kinds: repeating,
  heardIn: 'rhythm',
  shapesBars: true,
  columns: [{ name: 'meter', type: 'text', of: (_, { meter }) => meter }],
};
