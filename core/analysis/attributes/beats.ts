import { repeating, typedNumber, usual, type Attribute } from './attribute';

/** How many beats it lasts, and so how many bars. */
export const beats: Attribute<number> = {
  ...usual,
  label: 'Length',
  toText: String,
  fromText: (text) => {
    const value = typedNumber(text, 0, 512);
    return value === 0 ? null : value;
  },
  inWords: (value, barBeats) => {
    const bars = value / barBeats;
    return `${value} beats, ${Number.isInteger(bars) ? bars : bars.toFixed(2)} ${bars === 1 ? 'bar' : 'bars'}`;
  },
  field: { label: 'Another number of beats', placeholder: 'beats', isNumber: true },
  kinds: repeating,
  heardIn: 'rhythm',
  shapesBars: true,
  columns: [
    { name: 'beats', type: 'real', of: (_, { beats }) => beats },
    { name: 'bars', type: 'real', of: (_, { bars }) => bars },
  ],
  facets: [
    {
      name: 'bars',
      label: 'bars',
      match: 'number',
      column: 'bars',
      accepts: (text) => /^[1-9]\d?$/.test(text) && Number(text) <= 64,
      inWords: (text) => `${text} ${text === '1' ? 'bar' : 'bars'}`,
      choices: null,
    },
  ],
};
