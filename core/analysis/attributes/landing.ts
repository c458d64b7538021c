import { typedNumber, usual, type Attribute } from './attribute';

/** Where a sound that plays once lands, seconds of the file: what lies on a line of the piece when it is placed there. */
export const landing: Attribute<number> = {
  ...usual,
  label: 'Lands',
  same: (a, b) => Math.abs(a - b) < 0.015,
  toText: String,
  fromText: (text) => typedNumber(text, 0, 3600),
  inWords: (value) => (value < 0.015 ? 'at its start' : `${value.toFixed(2)} s in`),
  field: { label: 'Lands elsewhere, in seconds', placeholder: 'seconds', isNumber: true },
  kinds: ['one-shot', 'phrase'],
  heardIn: 'landing',
  columns: [{ name: 'landingSeconds', type: 'double', of: (value) => value }],
};
