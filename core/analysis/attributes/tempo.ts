import { repeating, typedNumber, usual, type Attribute } from './attribute';
import type { Source } from '../sources';

/** Names and tags often hold the whole number next to the tempo: 80 for 80.5. */
const roundsNames: ReadonlySet<Source> = new Set<Source>(['tag', 'file-name', 'folder']);
const isRounded = (said: number, value: number): boolean => Number.isInteger(said) && Math.abs(said - value) <= 0.5 + 1e-9;

/** In beats a minute; values within 0.4 % are the same. */
export const tempo: Attribute<number> = {
  ...usual,
  label: 'Tempo',
  same: (a, b) => Math.abs(a / b - 1) < 0.004,
  alsoSupports: (said, value, source) => roundsNames.has(source) && isRounded(said, value),
  toText: String,
  fromText: (text) => typedNumber(text, 20, 400),
  inWords: (value) => value.toFixed(2).replace(/\.?0+$/, ''),
  field: { label: 'Another tempo', placeholder: 'tempo', isNumber: true },
  // A phrase may be given one, to follow the project's.
  kinds: [...repeating, 'phrase'],
  isDoubted: true,
  heardIn: 'rhythm',
  shapesBars: true,
  unsays: ['beats'],
  columns: [{ name: 'tempoBpm', type: 'double', of: (_, { tempoBpm }) => tempoBpm }],
};
