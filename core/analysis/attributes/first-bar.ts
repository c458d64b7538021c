import { typedNumber, usual, type Attribute } from './attribute';

/** Where bar 1 begins, seconds of the file; values within 4 ms are the same. */
export const firstBar: Attribute<number> = {
  ...usual,
  label: 'Bar 1',
  same: (a, b) => Math.abs(a - b) < 0.004,
  toText: String,
  fromText: (text) => typedNumber(text, 0, 3600),
  inWords: (value) => (value < 0.0005 ? 'at the very start' : `${value.toFixed(3)} s in`),
  field: { label: 'Another start of bar 1, in seconds', placeholder: 'seconds', isNumber: true },
  // Where nothing was heard of a first bar, as in MIDI files, there is none to move.
  kinds: [],
  heardIn: 'rhythm',
  shapesBars: true,
  columns: [{ name: 'firstBarSeconds', type: 'double', of: (_, { firstBarSeconds }) => firstBarSeconds }],
};
